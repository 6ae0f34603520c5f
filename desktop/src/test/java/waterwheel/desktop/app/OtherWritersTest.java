package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.store.UnsavedWork;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.stems.StemsView;

/** Other programs that write where the window reads and saves. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OtherWritersTest extends DrivenApplication {
    private static final ChannelId MAIN = new ChannelId("main");
    private static final double OTHERS_TRIM = -7;

    private Path small = Path.of("");

    /** A session of one empty track, which is open at once. */
    @Override
    @BeforeEach
    void begin_with_the_demo_as_it_arrived() throws Exception {
        small = Files.createTempDirectory(shared, "small").resolve("song");
        Session session = new Session(
                "Small",
                48_000,
                PanLaw.MINUS_3,
                -18,
                List.of(),
                List.of(
                        new Track(LEAD, "Lead voice", Track.Kind.SUSTAINED, 1, List.of(), Strip.unity(Output.to(MAIN))),
                        new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere()))),
                MAIN,
                List.of());
        SessionFolder.save(session, small);
        robot.interact(this::openSmall);
    }

    private void openSmall() {
        try {
            desk().openNow(small);
        } catch (SessionFileException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Another program gives the lead voice a trim. */
    private void changedOutside() throws Exception {
        Session here = SessionFolder.load(small).session();
        SessionFolder.save(here.withStrip(LEAD, s -> s.withTrimDb(OTHERS_TRIM)), small);
    }

    private boolean asked() {
        return texts().anyMatch(t -> t.contains("Another program changed this session"));
    }

    @Test
    void a_change_from_outside_is_noticed_and_can_be_taken_and_taken_back() throws Exception {
        changedOutside();
        until(this::asked);
        robot.interact(() -> button("Take it").fire());
        assertThat(trim(LEAD)).isEqualTo(OTHERS_TRIM);
        assertThat(model().unsavedProperty().get()).isFalse();
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(trim(LEAD)).isZero();
        assertThat(model().unsavedProperty().get()).isTrue();
    }

    @Test
    void saving_over_it_is_asked_for_and_the_others_save_is_kept() throws Exception {
        robot.interact(() -> model().edit(Edits.trim(model().session().channel(LEAD), -2)));
        changedOutside();
        robot.push(KeyCode.CONTROL, KeyCode.S);
        assertThat(SessionFolder.load(small).session().channel(LEAD).strip().trimDb())
                .as("not saved over")
                .isEqualTo(OTHERS_TRIM);
        until(this::asked);
        robot.interact(() -> button("Keep mine").fire());
        robot.push(KeyCode.CONTROL, KeyCode.S);
        assertThat(SessionFolder.load(small).session().channel(LEAD).strip().trimDb())
                .isEqualTo(-2);
        try (Stream<Path> earlier = Files.list(small.resolve("earlier"))) {
            assertThat(earlier)
                    .anySatisfy(file -> assertThat(Files.readString(file)).contains("\"trimDb\" : -7.0"));
        }
    }

    @Test
    void both_can_be_kept_side_by_side() throws Exception {
        robot.interact(() -> model().edit(Edits.trim(model().session().channel(LEAD), -3)));
        changedOutside();
        until(this::asked);
        robot.interact(() -> button("Save beside").fire());
        Path beside = small.resolveSibling("song 2");
        assertThat(model().folder()).isEqualTo(beside);
        assertThat(SessionFolder.load(beside).session().channel(LEAD).strip().trimDb())
                .isEqualTo(-3);
        assertThat(SessionFolder.load(small).session().channel(LEAD).strip().trimDb())
                .isEqualTo(OTHERS_TRIM);
    }

    @Test
    void saving_waits_for_who_saves() throws Exception {
        robot.interact(() -> model().edit(Edits.trim(model().session().channel(LEAD), -4)));
        SessionLock held = SessionLock.acquire(small);
        Thread other = Thread.ofPlatform().start(() -> {
            try {
                Thread.sleep(400);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            held.close();
        });
        robot.interact(() -> desk().save());
        other.join();
        assertThat(SessionFolder.load(small).session().channel(LEAD).strip().trimDb())
                .isEqualTo(-4);
    }

    @Test
    void what_a_crash_left_is_no_question_any_more_once_the_session_is_closed() throws Exception {
        Session left = model().session().withStrip(LEAD, s -> s.withTrimDb(-9));
        UnsavedWork.keep(left, "Trim of Lead voice", small);
        robot.interact(this::openSmall);
        assertThat(texts()).anyMatch(t -> t.contains("Unsaved changes up to") && t.contains("Trim of Lead voice"));
        robot.interact(() -> desk().closeSession());
        assertThat(texts()).noneMatch(t -> t.equals("Take them up"));
        assertThat(small.resolve(UnsavedWork.FILE))
                .as("it is still there the next time")
                .exists();
        robot.interact(this::openSmall);
        robot.interact(() -> button("Drop them").fire());
        until(() -> !Files.exists(small.resolve(UnsavedWork.FILE)));
    }

    @Test
    void a_render_asks_before_it_replaces_what_was_not_rendered_here() throws Exception {
        Path renders = Files.createDirectories(small.resolve(SessionFolder.RENDERS));
        Path letter = Files.writeString(renders.resolve("Mix.wav"), "a letter");
        robot.interact(() -> desk().window().show(Step.STEMS));
        StemsView stems = shown(StemsView.class, view -> true);
        until(stems::ready);
        robot.interact(stems::render);
        assertThat(texts()).anyMatch(t -> t.contains("Mix.wav") && t.contains("not rendered by Waterwheel"));
        robot.interact(() -> button("Keep").fire());
        assertThat(letter).hasContent("a letter");
        Files.delete(letter);
    }
}
