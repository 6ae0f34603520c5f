package waterwheel.desktop.app;

import static java.util.Map.entry;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.ListView;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import org.commonmark.node.AbstractVisitor;
import org.commonmark.node.BulletList;
import org.commonmark.node.Emphasis;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import waterwheel.core.demo.DemoOrder;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.SongRow;
import waterwheel.core.work.Progress;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.guide.Guide;
import waterwheel.desktop.guide.Guide.Chapter;

/**
 * Every task of the guide, done as the guide says it: its steps are read from the text, found on the screen by the names
 * that stand there, and counted. A chapter with steps whose outcome nobody looks at fails.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class GuideTest extends DrivenApplication {
    private static final List<String> NUMBERS =
            List.of("None", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine");

    private static final Guide GUIDE = Guide.shipped();

    private static final ChannelId DULCIMER = new ChannelId("hammered-dulcimer");
    private static final ChannelId WHISTLE = new ChannelId("low-whistle");

    /** What is there before a task, and what must be after it. */
    private record Task(Check before, Check after) {
        Task(Check after) {
            this(() -> {}, after);
        }
    }

    @FunctionalInterface
    private interface Check {
        void run() throws Exception;
    }

    private final Map<String, Task> tasks = Map.ofEntries(
            entry("Stage twenty tracks", new Task(this::eachByItsTrim, this::tracksAreStaged)),
            entry("Find the overload that matters", new Task(this::lossIsSeenAtItsPlace)),
            entry("Make four submixes", new Task(this::flatten, this::fourBusesAreFed)),
            entry("Ask who fills the peak", new Task(this::secondPeakIsTold)),
            entry("Move a family with a VCA, not a bus", new Task(this::fiddlesAreUnderAVca)),
            entry("Let one channel press another down", new Task(this::voiceIsTheDulcimersKey)),
            entry("Place a stereo track", new Task(this::dulcimerIsPlaced)),
            entry("Ride under a voice", new Task(this::whistleStepsBack)),
            entry("Freeze through an insert", new Task(this::voiceIsFrozen)),
            entry("Time a loop through hardware", new Task(this::dulcimersLoopIsTimed)),
            entry("Stems with 4 dB of headroom, proven", new Task(this::withoutRenders, this::stemsAddUp)),
            entry("Songs of one evening, equally loud", new Task(this::openOrder, this::songsAreEqual)));

    static Stream<Chapter> chaptersWithSteps() {
        return GUIDE.chapters().stream().filter(chapter -> chapter.steps().isPresent());
    }

    static Stream<String> titles() {
        return chaptersWithSteps().map(Chapter::title);
    }

    @AfterEach
    void without_a_running_order_and_with_stems_as_they_are_mixed() throws Exception {
        robot.interact(() -> desk().orders().leave());
        if (desk().window().view(Step.STEMS) != null) {
            robot.interact(() -> desk().window().show(Step.STEMS));
            new GuidedHand(this).perform(new GuidedHand.Gesture(true, "Level › As mixed, no gain"));
        }
    }

    @ParameterizedTest
    @MethodSource("titles")
    void its_steps_do_what_it_promises_in_as_many_gestures_as_it_says(String title) throws Exception {
        Chapter chapter = GUIDE.chapter(title);
        Task task = Objects.requireNonNull(tasks.get(title), title);
        List<GuidedHand.Gesture> gestures = GuidedHand.gestures(chapter.steps().orElseThrow());
        assertThat(Guide.plain(chapter.blocks().getFirst()))
                .endsWith(" " + NUMBERS.get(gestures.size()) + " gestures.");
        task.before().run();
        GuidedHand hand = new GuidedHand(this);
        for (GuidedHand.Gesture gesture : gestures) {
            hand.perform(gesture);
        }
        task.after().run();
    }

    @Test
    void there_are_twelve_tasks() {
        assertThat(titles()).hasSize(12).containsExactlyInAnyOrderElementsOf(tasks.keySet());
    }

    @Test
    void every_term_that_is_set_apart_is_explained_once() {
        List<String> explained = Guide.children(words()).stream()
                .map(Guide::plain)
                .map(line -> line.substring(0, line.indexOf(':')))
                .toList();
        assertThat(explained).doesNotHaveDuplicates();
        List<String> used = new ArrayList<>();
        GUIDE.chapters().stream()
                .filter(chapter -> !chapter.title().equals("Words"))
                .flatMap(chapter -> chapter.blocks().stream())
                .forEach(block -> block.accept(new AbstractVisitor() {
                    @Override
                    public void visit(Emphasis emphasis) {
                        used.add(Guide.plain(emphasis));
                    }
                }));
        assertThat(used).hasSizeGreaterThan(12).allSatisfy(term -> assertThat(explained)
                .anyMatch(word -> term.equalsIgnoreCase(word) || term.equals(word + "s") || term.equals(word + "es")));
    }

    private static BulletList words() {
        return GUIDE.chapter("Words").blocks().stream()
                .filter(BulletList.class::isInstance)
                .map(BulletList.class::cast)
                .findFirst()
                .orElseThrow();
    }

    @Test
    void a_word_finds_the_chapters_that_hold_it_and_steps_stay_in_sight_while_they_are_done() {
        robot.push(KeyCode.F1);
        assertControlsAreNamed();
        ListView<?> chapters = shown(ListView.class, list -> "Chapters of the guide".equals(list.getAccessibleText()));
        assertThat(chapters.getItems())
                .as("every chapter, and the keys")
                .hasSize(GUIDE.chapters().size() + 1);
        robot.interact(() -> ((TextInputControl) desk().window().getScene().getFocusOwner()).setText("Narrower LEFT"));
        assertThat(chapters.getItems()).hasSize(1);
        assertThat(titleOfPage()).isEqualTo("Place a stereo track");
        robot.interact(() -> button("Steps in sight").fire());
        assertThat(seenChapters()).isEmpty();
        assertThat(namedInSight()).containsExactly("Place a stereo track");
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT5);
        assertThat(lane("Hammered dulcimer")).isNotNull();
        robot.interact(() -> button("Close").fire());
        assertThat(namedInSight()).isEmpty();
    }

    private List<Node> seenChapters() {
        return robot.from(desk().window()).lookup(".guide").queryAll().stream().toList();
    }

    private List<String> namedInSight() {
        return robot.from(desk().window()).lookup(".guide-steps .panel-title").queryAllAs(Labeled.class).stream()
                .filter(DrivenApplication::visible)
                .map(Labeled::getText)
                .toList();
    }

    private String titleOfPage() {
        return robot.from(desk().window()).lookup(".guide-title").queryLabeled().getText();
    }

    private Channel channel(ChannelId id) {
        return model().session().channel(id);
    }

    /** As the choices stand when the view is new. */
    private void eachByItsTrim() throws Exception {
        GuidedHand hand = new GuidedHand(this);
        hand.perform(new GuidedHand.Gesture(true, "How trims are proposed › Each to its target"));
        hand.perform(new GuidedHand.Gesture(true, "Which gain is proposed › by trim"));
    }

    private void tracksAreStaged() throws Exception {
        awaitLevels();
        assertThat(model().session().tracks().stream()
                        .filter(track -> track.strip().trimDb() != 0))
                .hasSizeGreaterThan(10);
    }

    private void lossIsSeenAtItsPlace() {
        assertThat(model().selectedChannel().name()).isEqualTo("Stomp board");
        assertThat(model().transport().secondsProperty().get()).isCloseTo(12, within(0.1));
        assertThat(visible(desk().window().clips().orElseThrow())).isTrue();
        robot.interact(() -> desk().window().toggleClips());
    }

    private void flatten() {
        robot.interact(() -> model().edit(new Edit("Flat", flat -> {
            Session out = flat;
            for (Channel track : flat.tracks()) {
                out = out.withStrip(track.id(), strip -> strip.withOutput(Output.to(flat.mainId())));
            }
            return out;
        })));
    }

    private void fourBusesAreFed() {
        Session session = model().session();
        assertThat(session.buses().stream()
                        .filter(bus -> !bus.id().equals(session.mainId()))
                        .filter(bus -> session.channels().stream()
                                .anyMatch(one -> one.strip().output().equals(Output.to(bus.id())))))
                .hasSizeGreaterThanOrEqualTo(4);
    }

    private void secondPeakIsTold() throws Exception {
        until(() -> texts().anyMatch(text -> text.startsWith("Peak 2 of Main")));
        assertThat(seen(".peak-part").stream().filter(Node::isVisible)).hasSizeGreaterThan(8);
    }

    private void fiddlesAreUnderAVca() {
        Vca made = model().session().vcas().getLast();
        assertThat(made.name()).isEqualTo("Fiddles");
        assertThat(made.members()).containsExactly(new ChannelId("fiddle-1"), new ChannelId("fiddle-2"));
    }

    private void voiceIsTheDulcimersKey() throws Exception {
        Insert compressor = channel(DULCIMER).strip().inserts().getLast();
        assertThat(channel(LEAD).strip().sends())
                .extracting(Send::target)
                .contains(new Send.ToKey(DULCIMER, compressor.id()));
        awaitLevels();
    }

    private void dulcimerIsPlaced() {
        assertThat(channel(DULCIMER).strip().placement().position()).isCloseTo(-0.2, within(1e-9));
        assertThat(channel(DULCIMER).strip().placement().width()).isCloseTo(0.6, within(1e-9));
    }

    private void whistleStepsBack() {
        assertThat(channel(WHISTLE).strip().rides().anyActive()).isTrue();
    }

    private void voiceIsFrozen() throws Exception {
        until(() -> channel(LEAD).strip().freeze().isPresent());
        awaitLevels();
    }

    private void dulcimersLoopIsTimed() throws Exception {
        until(() -> channel(DULCIMER).strip().inserts().stream()
                .flatMap(insert -> insert.processor().loop().timing().stream())
                .anyMatch(timing -> timing.blockFrames() == 256));
    }

    private void withoutRenders() throws Exception {
        Path renders = folder.resolve("renders");
        if (Files.exists(renders)) {
            try (Stream<Path> files = Files.walk(renders)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    private void stemsAddUp() throws Exception {
        until(() -> texts().anyMatch("Proof holds"::equals));
        assertThat(texts()).contains("+4.0 dB");
    }

    private void openOrder() throws Exception {
        Path order = DemoOrder.writeIfMissing(Files.createDirectories(shared.resolve("guided-order")), Progress.NONE);
        robot.interact(() -> {
            try {
                desk().openNow(order);
                desk().window().show(Step.STAGING);
            } catch (SessionFileException e) {
                throw new IllegalStateException(e);
            }
        });
        until(() -> orderLevels().rows().stream().noneMatch(SongRow::isPending));
    }

    private OrderLevels orderLevels() {
        return Objects.requireNonNull(desk().orders().model()).levels();
    }

    private void songsAreEqual() throws Exception {
        until(() -> orderLevels().rows().stream().noneMatch(SongRow::isPending));
        assertThat(orderLevels().worstLu(orderLevels().rows().get(1), "")).isLessThan(0.02);
    }
}
