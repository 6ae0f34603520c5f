package waterwheel.core.instruments;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.NoteTake;
import waterwheel.core.notes.Notes;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Signals;

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

    /** Of a straight line each frame says how far the sample was played. */
    @Test
    void the_wheel_bends_keys_that_sound_and_keys_that_are_pressed_meanwhile_without_a_jump() {
        float[] line = new float[4_000];
        for (int i = 0; i < line.length; i++) {
            line[i] = i * 1e-3f;
        }
        Region region = new Region(ONE, 0, 127, 1, 127, 60, 0, Region.Loop.NONE, 0, 0, 5, 0, 0, 1, 1, 1);
        LiveKeys keys = new LiveKeys(
                new Instrument.Sampler("Line", List.of(region)), 48_000, id -> new Sample(new float[][] {line}));
        keys.press(60, 127);
        float[] straight = block(keys);
        assertThat(straight).containsExactly(Arrays.copyOf(line, BLOCK));
        keys.bend(1);
        float[] up = block(keys);
        keys.bend(-0.5);
        float[] down = block(keys);
        keys.bend(0);
        float[] again = block(keys);
        double place = BLOCK;
        place = goesOn(up, place, Math.pow(2, 2 / 12.0));
        place = goesOn(down, place, Math.pow(2, -1 / 12.0));
        goesOn(again, place, 1);
        // Pressed while the wheel is down, and let go: bent from its beginning.
        keys.letGo(60);
        keys.bend(-1);
        for (int i = 0; i < 80; i++) {
            block(keys);
        }
        keys.press(60, 127);
        float[] later = block(keys);
        assertThat(later[40] - later[20]).isCloseTo((float) (20e-3 * Math.pow(2, -2 / 12.0)), within(1e-4f));
    }

    private static double goesOn(float[] block, double place, double step) {
        for (int i = 0; i < BLOCK; i++) {
            assertThat((double) block[i]).isCloseTo((place + i * step) * 1e-3, within(2e-5));
        }
        return place + BLOCK * step;
    }

    /** A note that is bent by hand between two blocks sounds as one that the same change bends when it is played back. */
    @ParameterizedTest
    @EnumSource(Region.Loop.class)
    void what_is_bent_by_hand_sounds_as_it_is_played_back(Region.Loop loop) {
        Sample noise = new Sample(new float[][] {Signals.noise(0.5, 700, 4)});
        Region region = new Region(ONE, 0, 127, 1, 127, 55, 0, loop, 50, 600, 0.02, 0, 0, 1, 1, 1);
        Instrument instrument = new Instrument.Sampler("Noise", List.of(region));
        int bent = 20 * BLOCK;
        int letGo = 31 * BLOCK;
        int back = 33 * BLOCK;
        LiveKeys keys = new LiveKeys(instrument, 48_000, id -> noise);
        keys.press(60, 100);
        Notes notes = new Notes(
                List.of(new Note(0, letGo, 60, 100)),
                List.of(
                        new NoteChange(bent, NoteChange.Kind.BEND, 1),
                        new NoteChange(back, NoteChange.Kind.BEND, -0.25)),
                Notes.none(48_000).tempo());
        Performer played = Performer.of(new Performance(instrument, notes, 1), 1, 48_000, id -> noise);
        float[][] wanted = new float[1][BLOCK];
        for (int at = 0; at < 60 * BLOCK; at += BLOCK) {
            if (at == bent) {
                keys.bend(1);
            } else if (at == letGo) {
                keys.letGo(60);
            } else if (at == back) {
                keys.bend(-0.25);
            }
            played.read(at, wanted, BLOCK);
            float[] heard = block(keys);
            // The playback knows from the beginning how far it will be bent, and has its filter from there.
            if (at >= bent) {
                for (int i = 0; i < BLOCK; i++) {
                    assertThat(heard[i]).as("frame %d", at + i).isCloseTo(wanted[0][i], within(2e-4f));
                }
            }
        }
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
