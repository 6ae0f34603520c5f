package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Processor;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.Songs;
import waterwheel.core.work.Progress;

/** What is listened to is the arithmetic of the stems, to -120 dBFS. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HeardSongTest {
    private static final int FRAMES = 9_600;

    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private final float[] drums = Signals.noise(0.2, FRAMES, 1);
    private final float[] bass = Signals.noise(0.2, FRAMES, 2);
    private final float[] click = Signals.noise(0.2, FRAMES, 3);
    private HeardSong heard;
    private Song song;

    @BeforeEach
    void a_song_whose_bass_is_corrected() throws Exception {
        RunningOrder order = new Songs(folder)
                .song("Reel")
                .stem("Drums", drums)
                .stem("Bass", bass)
                .stem("Click", click)
                .order()
                .withSong(new SongId("s1"), one -> one.with("Bass", new Correction(-6, Optional.empty())));
        song = order.songs().getFirst();
        heard = HeardSong.of(song, order, Songs.place(folder), Progress.NONE);
    }

    private void assertHeard(Session played, double drumsDb, double bassDb, double clickDb) {
        float[][] mix = new Renders(folder).mix(played);
        double[] gains = {factor(drumsDb), factor(bassDb), factor(clickDb)};
        for (int i = 0; i < FRAMES; i++) {
            double wanted = gains[0] * drums[i] + gains[1] * bass[i] + gains[2] * click[i];
            assertThat((double) mix[0][i]).isCloseTo(wanted, within(1e-6));
            assertThat((double) mix[1][i]).isCloseTo(wanted, within(1e-6));
        }
    }

    private static double factor(double db) {
        return Math.pow(10, db / 20);
    }

    private static final double OFF = Double.NEGATIVE_INFINITY;

    @Test
    void as_delivered_with_its_corrections_and_without_cues() {
        assertHeard(heard.played(song, HeardSong.Levels.DELIVERED, false, Map.of()), 0, -6, OFF);
    }

    @Test
    void as_it_was_before_any_correction() {
        assertHeard(heard.played(song, HeardSong.Levels.BEFORE, false, Map.of()), 0, 0, OFF);
    }

    @Test
    void cues_are_heard_where_that_is_wished() {
        assertHeard(heard.played(song, HeardSong.Levels.DELIVERED, true, Map.of()), 0, -6, 0);
    }

    @Test
    void faders_come_on_top_of_corrections() {
        assertHeard(
                heard.played(song, HeardSong.Levels.DELIVERED, true, Map.of("Bass", 3.0, "Drums", OFF, "Click", -12.0)),
                OFF,
                -3,
                -12);
    }

    @Test
    void what_corrects_it_now_is_heard_and_not_what_did_when_it_was_opened() {
        Song now = song.with("Bass", Correction.NONE).with("Drums", new Correction(-9, Optional.empty()));
        assertHeard(heard.played(now, HeardSong.Levels.DELIVERED, false, Map.of()), -9, 0, OFF);
    }

    @Test
    void an_equaliser_is_in_its_part_alone() {
        Processor cut = Processor.usual(Equaliser.KIND).with("lowShelfDb", -12);
        Song now = song.with("Drums", new Correction(0, Optional.of(cut)));
        float[][] with =
                new Renders(folder).mix(heard.played(now, HeardSong.Levels.DELIVERED, false, Map.of("Drums", OFF)));
        float[][] without =
                new Renders(folder).mix(heard.played(song, HeardSong.Levels.DELIVERED, false, Map.of("Drums", OFF)));
        assertThat(with).isDeepEqualTo(without);
        assertThat(new Renders(folder).mix(heard.played(now, HeardSong.Levels.DELIVERED, false, Map.of()))[0])
                .isNotEqualTo(
                        new Renders(folder).mix(heard.played(song, HeardSong.Levels.DELIVERED, false, Map.of()))[0]);
    }
}
