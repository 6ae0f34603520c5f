package waterwheel.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.findings.Finding;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.session.Channel;
import waterwheel.core.store.NewSession;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/** One open session: what is true at once, what is pending, and what becomes true. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(value = 60, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
class SessionModelTest {
    private static final int RATE = 48_000;

    @TempDir
    Path folder;

    private final FxRobot robot = new FxRobot();
    private final List<String> told = new ArrayList<>();
    private final List<SessionModel> open = new ArrayList<>();
    private Path home = Path.of("");

    @BeforeAll
    static void start() throws Exception {
        FxToolkit.registerPrimaryStage();
    }

    /** Two tracks of a square wave, whose peak is its level: 0.5 and 0.25, both hard left after placement. */
    @BeforeEach
    void open_two_tracks() throws Exception {
        home = folder.resolve("song");
        List<Path> files = List.of(square("low", 0.25f), square("high", 0.5f));
        NewSession.make(home, files, NewSession.Options.DEFAULT, Progress.NONE);
        SessionFolder.Loaded loaded = SessionFolder.load(home);
        robot.interact(() -> {
            open.add(new SessionModel(loaded, home, told::add));
            model().measure();
        });
        until(() -> model().levels().complete());
    }

    @AfterEach
    void close() {
        robot.interact(() -> open.forEach(SessionModel::close));
    }

    private SessionModel model() {
        return open.getFirst();
    }

    private Path square(String name, float level) throws Exception {
        float[] samples = new float[RATE];
        for (int i = 0; i < samples.length; i++) {
            samples[i] = i / 50 % 2 == 0 ? level : -level;
        }
        Path file = folder.resolve(name + ".wav");
        try (WavWriter writer = WavWriter.create(file, 1, RATE, SampleEncoding.FLOAT_32, samples.length)) {
            writer.write(new float[][] {samples}, 0, samples.length);
            writer.finish();
        }
        return file;
    }

    private void until(BooleanSupplier condition) throws Exception {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(30);
        boolean[] met = {false};
        while (!met[0] && System.nanoTime() < end) {
            robot.interact(() -> met[0] = condition.getAsBoolean());
            Thread.sleep(5);
        }
        assertThat(met[0]).as("within 30 s").isTrue();
    }

    private Channel track(int index) {
        return model().session().tracks().get(index);
    }

    private double mainPeak() {
        return model().levels().main().orElseThrow().samplePeakDbfs();
    }

    @Test
    void the_mix_measures_what_arithmetic_says() {
        // (0.5 + 0.25) at -3.01 dB in the centre: 20 log10(0.75) - 3.0103.
        assertThat(mainPeak()).isCloseTo(-5.509, within(0.001));
    }

    @Test
    void an_edit_makes_the_levels_pending_at_once_and_true_later() throws Exception {
        robot.interact(() -> {
            model().edit(Edits.trim(track(0), -6));
            SessionLevels now = model().levels();
            assertThat(now.session()).isEqualTo(model().session());
            assertThat(now.complete()).isFalse();
            assertThat(now.main()).as("never the figure of the session before").isEmpty();
        });
        until(() -> model().levels().complete());
        double expected = 20 * Math.log10(0.5 + 0.25 * Math.pow(10, -6 / 20.0)) - 3.0103;
        double other = 20 * Math.log10(0.25 + 0.5 * Math.pow(10, -6 / 20.0)) - 3.0103;
        assertThat(mainPeak()).isCloseTo(track(0).name().equals("high") ? other : expected, within(0.001));
    }

    @Test
    void many_edits_one_after_the_other_end_with_the_levels_of_the_last() throws Exception {
        robot.interact(() -> {
            for (int i = 1; i <= 40; i++) {
                model().edit(Edits.trim(model().session().main(), -i * 0.5), "drag");
            }
        });
        until(() -> model().levels().complete());
        assertThat(mainPeak()).isCloseTo(-25.509, within(0.001));
        robot.interact(() -> model().undo());
        assertThat(model().session().main().strip().trimDb())
                .as("a drag is one step")
                .isZero();
    }

    @Test
    void undo_and_redo_give_back_what_was_measured() throws Exception {
        double before = mainPeak();
        robot.interact(() -> model().edit(Edits.mute(track(1), true)));
        until(() -> model().levels().complete());
        assertThat(model().findingsProperty().get()).extracting(Finding::rule).contains(Finding.Rule.MUTED_TRACK);
        robot.interact(() -> model().undo());
        until(() -> model().levels().complete());
        assertThat(mainPeak()).isEqualTo(before);
        assertThat(model().findingsProperty().get()).extracting(Finding::rule).doesNotContain(Finding.Rule.MUTED_TRACK);
    }

    @Test
    void unsaved_says_whether_the_folder_differs_from_the_screen() throws Exception {
        assertThat(model().unsavedProperty().get()).isFalse();
        robot.interact(() -> model().edit(Edits.trim(track(0), -1)));
        assertThat(model().unsavedProperty().get()).isTrue();
        robot.interact(() -> model().undo());
        assertThat(model().unsavedProperty().get())
                .as("back where it was saved")
                .isFalse();
    }

    @Test
    void saved_as_another_folder_the_session_goes_on_there() throws Exception {
        Path copy = folder.resolve("copy");
        robot.interact(() -> {
            model().edit(Edits.trim(track(0), -2));
            try {
                model().saveAs(copy);
            } catch (SessionFileException e) {
                throw new IllegalStateException(e);
            }
        });
        assertThat(model().folder()).isEqualTo(copy);
        assertThat(SessionFolder.load(copy).session()).isEqualTo(model().session());
        assertThat(SessionFolder.load(home)
                        .session()
                        .tracks()
                        .getFirst()
                        .strip()
                        .trimDb())
                .as("the earlier folder is as it was")
                .isZero();
        robot.interact(() -> model().edit(Edits.trim(track(0), -3)));
        until(() -> model().levels().complete());
        assertThat(Files.exists(copy.resolve("audio"))).isTrue();
    }

    @Test
    void the_selection_moves_with_the_neighbours_and_stops_at_the_ends() {
        robot.interact(() -> {
            model().select(track(0).id());
            model().selectNeighbour(-1);
            assertThat(model().selectedChannel()).isEqualTo(track(0));
            model().selectNeighbour(1);
            assertThat(model().selectedChannel()).isEqualTo(track(1));
            model().selectNeighbour(10);
            assertThat(model().selectedChannel()).isEqualTo(model().session().main());
        });
    }
}
