package waterwheel.core.demo;

import java.util.ArrayList;
import java.util.List;

/** The players: each returns the planes of one track, not yet at its recorded level. */
final class Band {
    private static final Tone FIDDLE = new Tone(
            (h, hz) -> 1.0 / h * bump(hz, 480, 200, 1.2) * bump(hz, 2_800, 900, 1.6) * lowpass(hz, 5_500),
            0.035,
            0.07,
            14,
            0,
            0.015);
    private static final Tone MELODEON = new Tone(
            (h, hz) -> StrictMath.pow(h, -0.8) * bump(hz, 1_900, 900, 1.5) * lowpass(hz, 6_500), 0.02, 0.04, 0, 9, 0);
    private static final Tone HARMONIUM = new Tone(
            (h, hz) -> StrictMath.pow(h, -1.1) * (h % 2 == 0 ? 0.7 : 1) * lowpass(hz, 3_500), 0.15, 0.2, 0, 3, 0.004);
    private static final Tone WHISTLE =
            new Tone((h, hz) -> h == 1 ? 1 : h == 2 ? 0.18 : h == 3 ? 0.06 : 0.01 / h, 0.05, 0.06, 10, 0, 0.10);

    private final int rate;
    private final int frames;

    Band(int rate) {
        this.rate = rate;
        frames = (int) (Tune.BARS * Tune.BAR * Tune.QUAVER_SECONDS * rate);
    }

    private static double bump(double hz, double centre, double width, double gain) {
        double x = (hz - centre) / width;
        return 1 + (gain - 1) / (1 + x * x);
    }

    private static double lowpass(double hz, double corner) {
        double x = hz / corner;
        return 1 / (1 + x * x * x * x);
    }

    private static Wave.Spectrum vowel(double first, double second, double third) {
        return (h, hz) -> 1.0
                / h
                * (0.05
                        + peak(hz, first, 90)
                        + 0.6 * peak(hz, second, 120)
                        + 0.35 * peak(hz, third, 180)
                        + 0.1 * peak(hz, 3_500, 300));
    }

    private static double peak(double hz, double centre, double width) {
        double x = (hz - centre) / width;
        return 1 / (1 + x * x);
    }

    private float[] silence() {
        return new float[frames];
    }

    float[] bodhran() {
        List<Note> strokes = new ArrayList<>();
        for (int bar = Tune.INTRO; bar < Tune.ENDING; bar++) {
            boolean soft = bar >= Tune.VERSE && bar < Tune.CHORUS;
            for (int q = 0; q < Tune.BAR; q++) {
                if (soft && q % 4 != 0 && q != 6) {
                    continue;
                }
                double force = q == 0 ? 1 : q == 4 ? 0.8 : q % 2 == 0 ? 0.5 : 0.35;
                strokes.add(new Note(bar * Tune.BAR + q, 1, 0, soft ? force * 0.5 : force));
            }
        }
        strokes.add(new Note(Tune.ENDING * Tune.BAR, 1, 0, 1));
        float[] out = silence();
        new Drum(82, 55, 0.14, 0.9).play(strokes, out, rate, 1, 11);
        return out;
    }

    float[] stomp() {
        List<Note> strokes = new ArrayList<>();
        for (int bar = Tune.FIRST_TUNE; bar < Tune.ENDING; bar++) {
            if (bar < Tune.VERSE || bar >= Tune.CHORUS) {
                strokes.add(new Note(bar * Tune.BAR, 1, 0, 1));
                strokes.add(new Note(bar * Tune.BAR + 4, 1, 0, 0.8));
            }
        }
        strokes.add(new Note(Tune.ENDING * Tune.BAR, 1, 0, 1));
        float[] out = silence();
        new Drum(55, 40, 0.11, 0.35).play(strokes, out, rate, 1, 12);
        return out;
    }

    float[] bass() {
        List<Note> notes = new ArrayList<>();
        for (int bar = Tune.FIRST_TUNE; bar < Tune.ENDING; bar++) {
            int root = Tune.chord(bar) - 12;
            notes.add(new Note(bar * Tune.BAR, 3.6, root, 1));
            notes.add(new Note(bar * Tune.BAR + 4, 1.8, root + (bar % 2 == 0 ? 7 : 0), 0.8));
            notes.add(new Note(bar * Tune.BAR + 6, 1.8, root + 7 - (bar % 2 == 0 ? 7 : 0), 0.7));
        }
        notes.add(new Note(Tune.ENDING * Tune.BAR, 12, 38, 1));
        float[] out = silence();
        new Plucked(0.35, 2.4, 0.25).play(notes, out, rate, 1, 13);
        return out;
    }

    /** What a microphone hears of the bass: later, darker, with some room. */
    float[] bassMic(float[] direct, int lateSamples) {
        float[] out = silence();
        double smooth = 0;
        for (int i = lateSamples; i < frames; i++) {
            smooth += 0.18 * (direct[i - lateSamples] - smooth);
            out[i] = (float) smooth;
        }
        float[] room = Room.answer(out, rate, 90, 0.5);
        add(room, out, 0.2);
        return out;
    }

    float[][] harmonium() {
        List<Note> low = new ArrayList<>();
        List<Note> high = new ArrayList<>();
        for (int bar = Tune.INTRO; bar < Tune.ENDING; bar++) {
            int root = Tune.chord(bar);
            low.add(new Note(bar * Tune.BAR, 8, root, 0.7));
            low.add(new Note(bar * Tune.BAR, 8, root + 7, 0.6));
            high.add(new Note(bar * Tune.BAR, 8, root + 12, 0.7));
            high.add(new Note(bar * Tune.BAR, 8, root + 16, 0.5));
        }
        low.add(new Note(Tune.ENDING * Tune.BAR, 12, 50, 0.8));
        float[] left = silence();
        float[] right = silence();
        HARMONIUM.play(low, left, rate, 1, 14);
        HARMONIUM.play(high, right, rate, 1, 15);
        return blend(left, right, 0.5);
    }

    float[] fiddle(boolean second) {
        List<Note> notes = new ArrayList<>();
        for (Note note : Tune.reel()) {
            boolean later = note.start() >= Tune.SECOND_TUNE * Tune.BAR;
            if (!second) {
                notes.add(note);
            } else if (later) {
                notes.add(Tune.harmony(note, -2));
            } else if (note.start() >= (Tune.FIRST_TUNE + 8) * Tune.BAR) {
                notes.add(note.transposed(note.key() > 74 ? -12 : 0));
            }
        }
        if (second) {
            for (Note note : Tune.chorus()) {
                notes.add(Tune.harmony(note, -2));
            }
        }
        float[] out = silence();
        FIDDLE.play(notes, out, rate, 1, second ? 17 : 16);
        return out;
    }

    float[][] melodeon() {
        List<Note> treble = new ArrayList<>();
        List<Note> bassSide = new ArrayList<>();
        for (Note note : Tune.reel()) {
            if (note.start() >= (Tune.FIRST_TUNE + 16) * Tune.BAR) {
                treble.add(note);
            }
        }
        for (int bar = Tune.FIRST_TUNE + 16; bar < Tune.ENDING; bar++) {
            if (bar < Tune.VERSE || bar >= Tune.CHORUS) {
                int root = Tune.chord(bar);
                for (int q = 0; q < Tune.BAR; q += 4) {
                    bassSide.add(new Note(bar * Tune.BAR + q, 1.2, root, 0.9));
                    bassSide.add(new Note(bar * Tune.BAR + q + 2, 0.9, root + 12, 0.6));
                    bassSide.add(new Note(bar * Tune.BAR + q + 2, 0.9, root + 16, 0.6));
                }
            }
        }
        float[] left = silence();
        float[] right = silence();
        MELODEON.play(bassSide, left, rate, 0.8, 18);
        MELODEON.play(treble, right, rate, 1, 19);
        return blend(left, right, 0.15);
    }

    float[][] dulcimer() {
        List<Note> low = new ArrayList<>();
        List<Note> high = new ArrayList<>();
        for (int bar = Tune.INTRO; bar < Tune.ENDING; bar++) {
            int root = Tune.chord(bar);
            int[] pattern = {0, 12, 7, 12, 16, 12, 7, 12};
            for (int q = 0; q < Tune.BAR; q++) {
                boolean sparse = bar >= Tune.VERSE && bar < Tune.CHORUS && q % 2 == 1;
                if (!sparse) {
                    Note note = new Note(bar * Tune.BAR + q, 2, root + 12 + pattern[q], q % 4 == 0 ? 1 : 0.6);
                    (pattern[q] < 12 ? low : high).add(note);
                }
            }
        }
        float[] left = silence();
        float[] right = silence();
        Plucked hammer = new Plucked(0.8, 1.6, 0.8);
        hammer.play(low, left, rate, 1, 20);
        hammer.play(high, right, rate, 1, 21);
        return blend(left, right, 0.2);
    }

    /** A quiet player at a noisy input. */
    float[] whistle() {
        List<Note> notes = new ArrayList<>();
        for (Note note : Tune.verse()) {
            if (note.start() >= (Tune.VERSE + 8) * Tune.BAR) {
                notes.add(Tune.harmony(note, 2).transposed(12));
            }
        }
        for (Note note : Tune.reel()) {
            if (note.start() >= (Tune.SECOND_TUNE + 8) * Tune.BAR) {
                notes.add(note);
            }
        }
        float[] out = silence();
        WHISTLE.play(notes, out, rate, 1, 22);
        Dice hiss = new Dice(23);
        for (int i = 0; i < frames; i++) {
            out[i] += (float) (0.018 * hiss.next());
        }
        return out;
    }

    float[] leadVoice() {
        List<Note> notes = new ArrayList<>();
        Tune.verse().forEach(note -> notes.add(note.transposed(0)));
        notes.addAll(Tune.chorus());
        float[] out = silence();
        List<Note> open = notes.stream().filter(n -> n.key() % 2 == 0).toList();
        List<Note> round = notes.stream().filter(n -> n.key() % 2 != 0).toList();
        new Tone(vowel(730, 1_090, 2_440), 0.06, 0.09, 22, 0, 0.02).play(open, out, rate, 1, 24);
        new Tone(vowel(450, 850, 2_600), 0.06, 0.09, 22, 0, 0.02).play(round, out, rate, 1, 25);
        return out;
    }

    float[] chorusVoice(int number) {
        int[] steps = {0, -2, 2, -4};
        double[] first = {640, 560, 700, 500};
        List<Note> notes = Tune.chorus().stream()
                .map(note -> Tune.harmony(note, steps[number]).transposed(number == 3 ? -12 : 0))
                .toList();
        float[] out = silence();
        new Tone(vowel(first[number], 1_000 + 60 * number, 2_500), 0.07 + 0.01 * number, 0.1, 18, 0, 0.02)
                .play(notes, out, rate, 1, 26 + number);
        return out;
    }

    float[] click() {
        List<Note> blips = new ArrayList<>();
        for (int beat = 0; beat < Tune.BARS * 4; beat++) {
            blips.add(new Note(beat * 2, 1, 0, beat % 4 == 0 ? 1 : 0.6));
        }
        float[] out = silence();
        for (Note blip : blips) {
            int start = (int) (blip.start() * Tune.QUAVER_SECONDS * rate);
            for (int i = 0; i < rate / 100; i++) {
                double fade = 1 - i * 100.0 / rate;
                out[start + i] += (float) (blip.force() * fade * Wave.sine(i * 1_500.0 / rate));
            }
        }
        return out;
    }

    float[] countIn() {
        float[] out = silence();
        double[][] vowels = {{500, 900}, {350, 800}, {300, 2_200}, {550, 900}};
        for (int i = 0; i < 4; i++) {
            Note word = new Note(Tune.BAR + i * 2, 1.2, 50 + (i == 0 ? 2 : 0), 1);
            new Tone(vowel(vowels[i][0], vowels[i][1], 2_500), 0.015, 0.08, 0, 0, 0.05)
                    .play(List.of(word), out, rate, 1, 40 + i);
        }
        return out;
    }

    /** Every player as the room's pair hears them. */
    float[][] roomPair(List<float[]> players) {
        float[][] pair = {silence(), silence()};
        for (int p = 0; p < players.size(); p++) {
            float[] player = players.get(p);
            double toRight = players.size() == 1 ? 0.5 : (double) p / (players.size() - 1);
            int late = rate / 80 + p * 37;
            for (int i = late; i < frames; i++) {
                pair[0][i] += (float) ((1 - 0.7 * toRight) * player[i - late]);
                pair[1][i] += (float) ((0.3 + 0.7 * toRight) * player[i - late]);
            }
        }
        for (int side = 0; side < 2; side++) {
            float[] wet = Room.answer(pair[side], rate, side * 23, 1.3);
            add(wet, pair[side], 1.4);
        }
        return pair;
    }

    /** The drum from the other end of the room. */
    float[] bodhranRoom(float[] close) {
        float[] out = silence();
        int late = rate / 110;
        for (int i = late; i < frames; i++) {
            out[i] = 0.5f * close[i - late];
        }
        add(Room.answer(out, rate, 41, 0.8), out, 1.2);
        return out;
    }

    private static float[][] blend(float[] left, float[] right, double cross) {
        float[][] out = new float[2][left.length];
        for (int i = 0; i < left.length; i++) {
            out[0][i] = (float) (left[i] + cross * right[i]);
            out[1][i] = (float) (right[i] + cross * left[i]);
        }
        return out;
    }

    private static void add(float[] from, float[] to, double gain) {
        for (int i = 0; i < to.length; i++) {
            to[i] += (float) (gain * from[i]);
        }
    }
}
