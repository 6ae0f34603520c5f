package waterwheel.core.instruments;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.Notes;
import waterwheel.core.notes.Tempo;
import waterwheel.core.sources.SourceId;

/** Notes sound where, as high, as loud and as long as they should. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PerformerTest {
    private static final int RATE = 48_000;
    private static final SourceId CLICK = new SourceId("click");
    private static final SourceId SINE = new SourceId("sine");
    private static final SourceId OTHER = new SourceId("other");
    /** 480 Hz: 100 frames a period. */
    private static final double HERTZ = 480;

    private static final Map<SourceId, Sample> SAMPLES =
            Map.of(CLICK, click(), SINE, sine(48_000), OTHER, new Sample(new float[][] {{-1}}));

    private static Sample click() {
        float[] plane = new float[10];
        plane[0] = 1;
        return new Sample(new float[][] {plane});
    }

    private static Sample sine(int frames) {
        float[] plane = new float[frames];
        for (int i = 0; i < frames; i++) {
            plane[i] = (float) Math.sin(2 * Math.PI * HERTZ * i / RATE);
        }
        return new Sample(new float[][] {plane});
    }

    private static Region region(SourceId source, Region.Loop loop, long from, long to, double release) {
        return new Region(source, 0, 127, 1, 127, 60, 0, loop, from, to, release, 0, 0, 1, 1, 1);
    }

    private static Notes notes(List<NoteChange> changes, Note... notes) {
        return new Notes(List.of(notes), changes, Tempo.of(120, RATE));
    }

    private static float[][] play(List<Region> regions, Notes notes, int planes, int frames) {
        return play(new Performance(new Instrument.Sampler("Test", regions), notes, 1), planes, frames, 128);
    }

    private static float[][] play(Performance performance, int planes, int frames, int block) {
        Performer performer = Performer.of(performance, planes, RATE, id -> SAMPLES.getOrDefault(id, Sample.NONE));
        float[][] all = new float[planes][frames];
        float[][] buffer = new float[planes][block];
        for (int at = 0; at < frames; at += block) {
            int count = Math.min(block, frames - at);
            performer.read(at, buffer, count);
            for (int p = 0; p < planes; p++) {
                System.arraycopy(buffer[p], 0, all[p], at, count);
            }
        }
        return all;
    }

    private static double peak(float[] plane, int from, int to) {
        double most = 0;
        for (int i = from; i < to; i++) {
            most = Math.max(most, Math.abs(plane[i]));
        }
        return most;
    }

    /** Where the plane is not silent. */
    private static List<Integer> sounding(float[] plane) {
        List<Integer> found = new ArrayList<>();
        for (int i = 0; i < plane.length; i++) {
            if (plane[i] != 0) {
                found.add(i);
            }
        }
        return found;
    }

    @Test
    void notes_start_at_their_exact_frame() {
        Notes notes = notes(
                List.of(),
                new Note(0, 50, 60, 127),
                new Note(127, 50, 60, 127),
                new Note(128, 50, 60, 127),
                new Note(1_001, 1, 60, 127));
        float[][] out = play(List.of(region(CLICK, Region.Loop.NONE, 0, 0, 0.05)), notes, 1, 2_000);
        assertThat(sounding(out[0])).containsExactly(0, 127, 128, 1_001);
        assertThat(out[0][127]).isEqualTo(1);
    }

    @Test
    void velocity_gain_and_pan_are_as_defined() {
        Region loud = new Region(CLICK, 0, 127, 1, 127, 60, 0, Region.Loop.ONE_SHOT, 0, 0, 0, -6, 0.5, 1, 1, 1);
        float[][] out = play(List.of(loud), notes(List.of(), new Note(0, 50, 60, 64)), 2, 10);
        double level = Math.pow(10, -6 / 20.0) * Math.pow(64 / 127.0, 2);
        assertThat(out[1][0]).isCloseTo((float) level, Offset.offset(1e-6f));
        assertThat(out[0][0]).isCloseTo((float) (level * Math.cos(Math.PI / 4)), Offset.offset(1e-6f));
    }

    @Test
    void an_octave_up_is_twice_as_high_and_as_loud() {
        float[][] out = play(
                List.of(region(SINE, Region.Loop.NONE, 0, 0, 0.05)),
                notes(List.of(), new Note(0, 40_000, 72, 127)),
                1,
                20_000);
        double worst = 0;
        for (int i = 100; i < 19_000; i++) {
            worst = Math.max(worst, Math.abs(out[0][i] - Math.sin(2 * Math.PI * 2 * HERTZ * i / RATE)));
        }
        assertThat(worst).isLessThan(1e-3);
    }

    @Test
    void tuning_and_bend_move_the_pitch_in_between() {
        // 7 semitones up by key, then 2 up by bend.
        Notes notes = notes(List.of(new NoteChange(10_000, NoteChange.Kind.BEND, 1)), new Note(0, 40_000, 67, 127));
        float[][] out = play(List.of(region(SINE, Region.Loop.NONE, 0, 0, 0.05)), notes, 1, 20_000);
        assertThat(hertz(out[0], 1_000, 9_000)).isCloseTo(HERTZ * Math.pow(2, 7 / 12.0), Offset.offset(0.5));
        assertThat(hertz(out[0], 11_000, 19_000)).isCloseTo(HERTZ * Math.pow(2, 9 / 12.0), Offset.offset(0.5));
    }

    /** By counting where it rises through 0. */
    private static double hertz(float[] plane, int from, int to) {
        double first = -1;
        double last = -1;
        int count = 0;
        for (int i = from + 1; i < to; i++) {
            if (plane[i - 1] < 0 && plane[i] >= 0) {
                double at = i - plane[i] / (plane[i] - plane[i - 1]);
                first = first < 0 ? at : first;
                last = at;
                count++;
            }
        }
        return (count - 1) * RATE / (last - first);
    }

    @Test
    void a_loop_goes_round_without_a_seam_at_any_pitch() {
        // Ten periods of it, 1,000 frames.
        Region looped = region(SINE, Region.Loop.CONTINUOUS, 2_000, 3_000, 0.05);
        for (int key : new int[] {60, 63, 72}) {
            float[][] out = play(List.of(looped), notes(List.of(), new Note(0, 90_000, key, 127)), 1, 60_000);
            double step = Math.pow(2, (key - 60) / 12.0);
            double worst = 0;
            for (int i = 100; i < 59_000; i++) {
                worst = Math.max(worst, Math.abs(out[0][i] - Math.sin(2 * Math.PI * HERTZ * step * i / RATE)));
            }
            assertThat(worst).as("key %s", key).isLessThan(2e-3);
        }
    }

    @Test
    void a_key_that_is_let_go_dies_away_and_one_that_is_not_looped_ends() {
        float[][] out = play(
                List.of(region(SINE, Region.Loop.CONTINUOUS, 2_000, 3_000, 0.1)),
                notes(List.of(), new Note(0, 10_000, 60, 127)),
                1,
                30_000);
        assertThat(peak(out[0], 9_000, 10_000)).isCloseTo(1, Offset.offset(1e-3));
        // 60 dB in a tenth of a second: 30 in half of it.
        assertThat(20 * Math.log10(peak(out[0], 12_350, 12_450))).isCloseTo(-30, Offset.offset(0.7));
        assertThat(peak(out[0], 10_000 + 7_300, 30_000)).isZero();
        // One shot plays whatever becomes of its key; another is let go.
        Notes brief = notes(List.of(), new Note(0, 100, 60, 127));
        assertThat(peak(
                        play(List.of(region(SINE, Region.Loop.ONE_SHOT, 0, 0, 0)), brief, 1, 50_000)[0],
                        40_000,
                        48_000))
                .isCloseTo(1, Offset.offset(1e-3));
        assertThat(peak(play(List.of(region(SINE, Region.Loop.NONE, 0, 0, 0.01)), brief, 1, 50_000)[0], 2_000, 48_000))
                .isZero();
        // Round while it is held, then on to the end of the sample.
        Notes held = notes(List.of(), new Note(0, 50_000, 60, 127));
        float[][] on = play(List.of(region(SINE, Region.Loop.SUSTAIN, 2_000, 3_000, 100)), held, 1, 110_000);
        assertThat(peak(on[0], 60_000, 90_000)).isGreaterThan(0.8);
        assertThat(peak(on[0], 100_000, 110_000)).isZero();
    }

    @Test
    void the_pedal_holds_what_is_let_go_until_it_comes_up() {
        Notes notes = notes(
                List.of(
                        new NoteChange(500, NoteChange.Kind.SUSTAIN, 1),
                        new NoteChange(20_000, NoteChange.Kind.SUSTAIN, 0)),
                new Note(0, 1_000, 60, 127));
        float[][] out = play(List.of(region(SINE, Region.Loop.CONTINUOUS, 2_000, 3_000, 0.01)), notes, 1, 40_000);
        assertThat(peak(out[0], 19_000, 20_000)).isCloseTo(1, Offset.offset(1e-3));
        assertThat(peak(out[0], 21_000, 40_000)).isZero();
    }

    @Test
    void volume_and_pan_controllers_shape_what_comes_out() {
        Notes notes = notes(
                List.of(
                        new NoteChange(1_000, NoteChange.Kind.VOLUME, 0.5),
                        new NoteChange(20_000, NoteChange.Kind.PAN, 1)),
                new Note(0, 90_000, 60, 127));
        float[][] out = play(List.of(region(SINE, Region.Loop.CONTINUOUS, 2_000, 3_000, 0.01)), notes, 2, 40_000);
        assertThat(peak(out[0], 0, 1_000)).isCloseTo(1, Offset.offset(1e-3));
        // The square of it.
        assertThat(peak(out[0], 5_000, 19_000)).isCloseTo(0.25, Offset.offset(1e-3));
        assertThat(peak(out[1], 25_000, 39_000)).isCloseTo(0.25, Offset.offset(1e-3));
        assertThat(peak(out[0], 25_000, 39_000)).isLessThan(1e-6);
    }

    @Test
    void regions_take_turns_and_tell_velocities_and_outputs_apart() {
        Region one = new Region(CLICK, 60, 60, 1, 127, 60, 0, Region.Loop.ONE_SHOT, 0, 0, 0, 0, 0, 1, 2, 1);
        Region two = new Region(OTHER, 60, 60, 1, 127, 60, 0, Region.Loop.ONE_SHOT, 0, 0, 0, 0, 0, 2, 2, 1);
        Region hard = new Region(CLICK, 61, 61, 100, 127, 61, 0, Region.Loop.ONE_SHOT, 0, 0, 0, 0, 0, 1, 1, 1);
        Region elsewhere = new Region(CLICK, 60, 61, 1, 127, 60, 0, Region.Loop.ONE_SHOT, 0, 0, 0, 0, 0, 1, 1, 3);
        Notes notes = notes(
                List.of(),
                new Note(0, 5, 60, 127),
                new Note(100, 5, 60, 127),
                new Note(200, 5, 60, 127),
                new Note(300, 5, 61, 50),
                new Note(400, 5, 61, 127));
        float[][] out = play(List.of(one, two, hard, elsewhere), notes, 1, 500);
        assertThat(sounding(out[0])).containsExactly(0, 100, 200, 400);
        assertThat(List.of(out[0][0], out[0][100], out[0][200])).containsExactly(1f, -1f, 1f);
        Instrument.Sampler all = new Instrument.Sampler("Test", List.of(one, two, hard, elsewhere));
        assertThat(all.outputs()).containsExactly(1, 3);
        assertThat(sounding(play(new Performance(all, notes, 3), 1, 500, 64)[0]))
                .contains(300);
    }

    /** Played from anywhere and in blocks of any length it is the same to the bit. */
    @Test
    void where_one_begins_and_how_long_blocks_are_changes_no_bit() {
        Random random = new Random(8);
        for (int round = 0; round < 12; round++) {
            Performance performance = random(random);
            float[][] whole = play(performance, 2, 30_000, 512);
            assertThat(play(performance, 2, 30_000, 1 + random.nextInt(700))).isDeepEqualTo(whole);
            Performer performer = Performer.of(performance, 2, RATE, id -> SAMPLES.getOrDefault(id, Sample.NONE));
            float[][] buffer = new float[2][400];
            for (int jump = 0; jump < 20; jump++) {
                int at = random.nextInt(29_000);
                int count = 1 + random.nextInt(400);
                performer.read(at, buffer, count);
                for (int p = 0; p < 2; p++) {
                    assertThat(Arrays.copyOf(buffer[p], count))
                            .as("round %s at %s", round, at)
                            .containsExactly(Arrays.copyOfRange(whole[p], at, at + count));
                }
            }
        }
    }

    private static Performance random(Random random) {
        List<Note> notes = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            notes.add(new Note(
                    random.nextInt(28_000),
                    1 + random.nextInt(6_000),
                    48 + random.nextInt(30),
                    1 + random.nextInt(127)));
        }
        List<NoteChange> changes = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            NoteChange.Kind kind = List.of(NoteChange.Kind.values()).get(random.nextInt(4));
            changes.add(new NoteChange(random.nextInt(30_000), kind, random.nextDouble()));
        }
        List<Region.Loop> loops = List.of(Region.Loop.values());
        List<Region> regions = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            regions.add(new Region(
                    random.nextBoolean() ? SINE : CLICK,
                    random.nextInt(60),
                    60 + random.nextInt(67),
                    1,
                    127,
                    60,
                    random.nextInt(100) - 50,
                    loops.get(random.nextInt(4)),
                    random.nextInt(4_000),
                    4_001 + random.nextInt(8_000),
                    random.nextDouble() * 0.2,
                    -random.nextInt(12),
                    random.nextDouble() * 2 - 1,
                    1,
                    1,
                    1));
        }
        Instrument instrument =
                random.nextInt(3) == 0 ? Instrument.Synth.PLUCKED : new Instrument.Sampler("R", regions);
        return new Performance(instrument, new Notes(notes, changes, Tempo.of(120, RATE)), 1);
    }

    @Test
    void a_struck_key_has_its_pitch_falls_as_told_and_is_the_same_every_time() {
        Instrument.Synth synth = new Instrument.Synth("Test", 1, 0.3, 0.5, 0, 0.2, 0, 1);
        Notes notes = notes(List.of(), new Note(0, RATE, 69, 127));
        float[][] out = play(new Performance(synth, notes, 1), 1, RATE, 512);
        // The fundamental is left when high partials are gone.
        assertThat(hertz(out[0], 20_000, 30_000)).isCloseTo(440, Offset.offset(0.5));
        double decay = Math.pow(0.7, 9 / 12.0);
        double fall = 20 * Math.log10(peak(out[0], 28_000, 28_400) / peak(out[0], 20_000, 20_400));
        assertThat(fall).isCloseTo(-60 * 8_000.0 / RATE / decay, Offset.offset(0.7));
        assertThat(play(new Performance(synth, notes, 1), 1, RATE, 100)).isDeepEqualTo(out);
        assertThat(peak(out[0], 0, RATE)).isBetween(0.02, 1.0);
    }
}
