package waterwheel.core.instruments;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteTake;
import waterwheel.core.sources.SourceId;

/** Keys begin and end with blocks, and become notes. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LiveKeysTest {
    private static final int BLOCK = 64;
    private static final SourceId ONE = new SourceId("one");

    private final Sample ones = ones();

    private static Sample ones() {
        float[] plane = new float[1_000];
        Arrays.fill(plane, 1);
        return new Sample(new float[][] {plane});
    }

    private LiveKeys keys(Region.Loop loop) {
        Region region = new Region(ONE, 0, 127, 1, 127, 60, 0, loop, 0, 0, 0.001, 0, 0, 1, 1, 1);
        return new LiveKeys(new Instrument.Sampler("Test", List.of(region)), 48_000, id -> ones);
    }

    private static float[] block(LiveKeys keys) {
        float[][] out = new float[1][BLOCK];
        keys.begin();
        keys.add(1, out, BLOCK);
        keys.end(BLOCK);
        return out[0];
    }

    @Test
    void a_key_sounds_from_the_next_block_on_through_every_block_until_it_is_let_go() {
        LiveKeys keys = keys(Region.Loop.CONTINUOUS);
        assertThat(block(keys)).containsOnly(0);
        keys.press(60, 127);
        for (int i = 0; i < 40; i++) {
            // Round and round: longer than the sample.
            assertThat(block(keys)).containsOnly(1);
        }
        keys.letGo(60);
        float[] fading = block(keys);
        assertThat(fading[0]).isEqualTo(1);
        assertThat(fading[48]).isBetween(0.0005f, 0.002f);
        block(keys);
        assertThat(block(keys)).containsOnly(0);
    }

    @Test
    void twice_asked_in_a_block_it_says_the_same_and_softer_is_softer() {
        LiveKeys keys = keys(Region.Loop.NONE);
        keys.press(60, 64);
        float[][] one = new float[2][BLOCK];
        float[][] two = new float[2][BLOCK];
        keys.begin();
        keys.add(1, one, BLOCK);
        keys.add(1, two, BLOCK);
        keys.add(2, two, BLOCK);
        keys.end(BLOCK);
        assertThat(two).isDeepEqualTo(one);
        assertThat(one[0][10]).isEqualTo((float) (64 / 127.0 * (64 / 127.0)));
        for (int i = 0; i < 20; i++) {
            block(keys);
        }
        // The sample has ended by itself.
        assertThat(block(keys)).containsOnly(0);
    }

    @Test
    void more_keys_than_voices_lose_the_last_and_nothing_else() {
        LiveKeys keys = keys(Region.Loop.CONTINUOUS);
        for (int i = 0; i < 400; i++) {
            keys.press(i % 128, 127);
        }
        assertThat(block(keys)[5]).isBetween(200f, 270f);
    }

    @Test
    void what_is_played_becomes_notes() {
        NoteTake take = new NoteTake();
        take.press(100, 60, 90);
        take.press(150, 64, 80);
        take.letGo(300, 60);
        take.letGo(310, 61);
        // Struck again without being let go.
        take.press(400, 64, 70);
        assertThat(take.notes(1_000))
                .containsExactlyInAnyOrder(
                        new Note(100, 200, 60, 90), new Note(150, 250, 64, 80), new Note(400, 600, 64, 70));
    }
}
