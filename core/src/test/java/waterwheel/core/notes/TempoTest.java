package waterwheel.core.notes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

/** Beats and frames belong together, whatever the tempo does. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TempoTest {
    private static final int RATE = 48_000;

    @Test
    void one_tempo_counts_evenly() {
        Tempo tempo = Tempo.of(90, RATE);
        // A beat at 90 a minute lasts two thirds of a second.
        assertThat(tempo.frame(3)).isEqualTo(96_000);
        assertThat(tempo.beat(96_000)).isCloseTo(3, Offset.offset(1e-12));
        assertThat(tempo.aligned(15_900, 0.5)).isEqualTo(16_000);
        assertThat(tempo.aligned(7_999, 0.5)).isZero();
        assertThat(tempo.aligned(8_001, 0.5)).isEqualTo(16_000);
    }

    @Test
    void whatever_changes_there_and_back_is_the_same_frame() {
        Random random = new Random(4);
        for (int round = 0; round < 50; round++) {
            List<Tempo.Change> changes = new ArrayList<>();
            long frame = 0;
            double beat = 0;
            for (int i = 0; i < 6; i++) {
                double perBeat = 4_000 + random.nextInt(60_000);
                changes.add(new Tempo.Change(frame, beat, perBeat));
                long next = frame + 1 + random.nextInt(200_000);
                beat += (next - frame) / perBeat;
                frame = next;
            }
            Tempo tempo = new Tempo(changes);
            double before = -1;
            for (int i = 0; i < 100; i++) {
                long at = i * (frame / 100);
                assertThat(tempo.frame(tempo.beat(at))).isEqualTo(at);
                assertThat(tempo.beat(at)).isGreaterThan(before);
                before = tempo.beat(at);
                // On the grid it stays where it is.
                long aligned = tempo.aligned(at, 0.25);
                assertThat(tempo.aligned(aligned, 0.25)).isEqualTo(aligned);
            }
        }
    }

    @Test
    void a_map_begins_at_the_songs_beginning_and_beats_last() {
        assertThatIllegalArgumentException().isThrownBy(() -> new Tempo(List.of()));
        assertThatIllegalArgumentException().isThrownBy(() -> new Tempo(List.of(new Tempo.Change(10, 0, 24_000))));
        assertThatIllegalArgumentException().isThrownBy(() -> new Tempo.Change(0, 0, 0));
        assertThatIllegalArgumentException().isThrownBy(() -> new Tempo.Change(0, 0, Double.NaN));
    }
}
