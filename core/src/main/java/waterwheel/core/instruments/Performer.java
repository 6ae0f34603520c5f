package waterwheel.core.instruments;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.Notes;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Decibels;

/**
 * Plays a performance. All voices are known before the first frame; reading allocates nothing and may go on anywhere. One
 * thread at a time.
 */
public final class Performer {
    private static final double BEND_SEMITONES = 2;
    /** How long volume and pan take to where they move. */
    private static final double GLIDE_SECONDS = 0.005;

    private final int planes;
    private final Voice[] voices;
    /** Of the voices that have begun, those that sound; in order. */
    private final int[] sounding;

    private int soundingCount;
    private int next;
    private long expected = -1;

    private final GainLine volume;
    private final GainLine pan;

    private Performer(List<Voice> voices, int planes, GainLine volume, GainLine pan) {
        this.planes = planes;
        this.voices = voices.stream()
                .sorted(Comparator.comparingLong(voice -> voice.start))
                .toArray(Voice[]::new);
        sounding = new int[this.voices.length];
        this.volume = volume;
        this.pan = pan;
    }

    /**
     * Makes a performance ready.
     *
     * @param planes of what comes out: 1 mono, 2 stereo
     * @param samples the samples of a file; {@link Sample#NONE} for one that is missing
     */
    public static Performer of(
            Performance performance, int planes, int sampleRateHz, Function<SourceId, Sample> samples) {
        return new Making(performance, planes, sampleRateHz, samples).performer();
    }

    /**
     * The voices of one note that is played by hand: it begins at frame 0 and is held until it is let go.
     *
     * @param performance without notes
     * @param turn how often its key was played before
     */
    static List<Voice> byHand(
            Performance performance,
            int planes,
            int sampleRateHz,
            Function<SourceId, Sample> samples,
            Note note,
            int turn) {
        Making making = new Making(performance, planes, sampleRateHz, samples);
        List<Voice> voices = new ArrayList<>();
        switch (performance.instrument()) {
            case Instrument.Sampler sampler -> making.addRegions(sampler, note, turn, voices);
            case Instrument.Synth synth -> voices.add(making.struck(synth, note));
        }
        return voices;
    }

    /** What a performance is made of, on its way to voices. */
    private static final class Making {
        private final Performance performance;
        private final Notes notes;
        private final int planes;
        private final int rate;
        private final Function<SourceId, Sample> samples;
        private final List<NoteChange> bends;
        private final List<NoteChange> pedal;
        /** Where the last note ends. */
        private final long end;

        Making(Performance performance, int planes, int rate, Function<SourceId, Sample> samples) {
            this.performance = performance;
            this.planes = planes;
            this.rate = rate;
            this.samples = samples;
            notes = performance.notes();
            bends = of(NoteChange.Kind.BEND);
            pedal = of(NoteChange.Kind.SUSTAIN);
            end = notes.endFrames();
        }

        private List<NoteChange> of(NoteChange.Kind kind) {
            return notes.changes().stream()
                    .filter(change -> change.kind() == kind)
                    .toList();
        }

        Performer performer() {
            List<Voice> voices = new ArrayList<>();
            switch (performance.instrument()) {
                case Instrument.Sampler sampler -> addRegions(sampler, voices);
                case Instrument.Synth synth -> {
                    if (performance.output() == 1) {
                        notes.notes().forEach(note -> voices.add(struck(synth, note)));
                    }
                }
            }
            int glide = (int) Math.max(1, GLIDE_SECONDS * rate);
            return new Performer(
                    voices,
                    planes,
                    GainLine.of(
                            of(NoteChange.Kind.VOLUME), NoteChange.Kind.VOLUME.usual(), glide, value -> value * value),
                    GainLine.of(of(NoteChange.Kind.PAN), NoteChange.Kind.PAN.usual(), glide, value -> 2 * value - 1));
        }

        private void addRegions(Instrument.Sampler sampler, List<Voice> voices) {
            // Whose turn it is goes on note by note among those of a key that take turns, at every output alike.
            Map<Integer, Integer> turns = new HashMap<>();
            for (Note note : notes.notes()) {
                addRegions(sampler, note, turns.merge(note.key(), 1, Integer::sum) - 1, voices);
            }
        }

        /** @param turn how often the key was played before */
        private void addRegions(Instrument.Sampler sampler, Note note, int turn, List<Voice> voices) {
            for (Region region : sampler.regions()) {
                if (region.output() == performance.output()
                        && region.takes(note.key(), note.velocity())
                        && turn % region.turns() == region.turn() - 1) {
                    voices.add(played(region, note));
                }
            }
        }

        private Voice played(Region region, Note note) {
            double semitones = note.key() - region.centreKey() + region.tuneCents() / 100;
            double[] gains = new double[planes];
            double level = Decibels.toFactor(region.volumeDb()) * loudness(note);
            for (int p = 0; p < planes; p++) {
                gains[p] = level * (planes == 1 ? 1 : side(p, region.pan()));
            }
            return voice(
                    samples.apply(region.source()),
                    region.loop(),
                    region.loopStart(),
                    region.loopEnd(),
                    note,
                    region.releaseSeconds(),
                    gains,
                    semitones);
        }

        private Voice struck(Instrument.Synth synth, Note note) {
            int layer = Math.min(SynthSound.LAYERS - 1, note.velocity() * SynthSound.LAYERS / 128);
            double[] gains = new double[planes];
            Arrays.fill(gains, loudness(note));
            return voice(
                    SynthSound.of(synth, note.key(), layer, rate),
                    Region.Loop.NONE,
                    0,
                    0,
                    note,
                    synth.releaseSeconds(),
                    gains,
                    0);
        }

        /** The square of the velocity's part of the most. */
        private static double loudness(Note note) {
            double part = note.velocity() / 127.0;
            return part * part;
        }

        private Voice voice(
                Sample sample,
                Region.Loop loop,
                long loopStart,
                long loopEnd,
                Note note,
                double releaseSeconds,
                double[] gains,
                double semitones) {
            long start = note.startFrames();
            long release = released(note.endFrames());
            long last = loop == Region.Loop.ONE_SHOT
                    ? start + (long) Math.ceil(sample.frames() / step(semitones, -1))
                    : release + (long) Math.ceil(1.5 * Math.max(1, releaseSeconds * rate));
            int bend = upTo(bends, start);
            List<Long> turns = new ArrayList<>(List.of(0L));
            List<Double> steps = new ArrayList<>(List.of(step(
                    semitones,
                    bend < 0 ? NoteChange.Kind.BEND.usual() : bends.get(bend).value())));
            // Only while it sounds: of thousands of bends a note hears few.
            for (int i = bend + 1; i < bends.size() && bends.get(i).frame() < last; i++) {
                turns.add(bends.get(i).frame() - start);
                steps.add(step(semitones, bends.get(i).value()));
            }
            return new Voice(
                    sample,
                    loop,
                    loopStart,
                    loopEnd,
                    start,
                    release,
                    releaseSeconds * rate,
                    gains,
                    turns.stream().mapToLong(Long::longValue).toArray(),
                    steps.stream().mapToDouble(Double::doubleValue).toArray());
        }

        /** The place of the last change at or before a frame; -1 where there is none. */
        private static int upTo(List<NoteChange> changes, long frame) {
            int low = 0;
            int high = changes.size();
            while (low < high) {
                int middle = (low + high) >>> 1;
                if (changes.get(middle).frame() <= frame) {
                    low = middle + 1;
                } else {
                    high = middle;
                }
            }
            return low - 1;
        }

        private static double step(double semitones, double bend) {
            double all = semitones + BEND_SEMITONES * bend;
            return all == 0 ? 1 : Math.pow(2, all / 12);
        }

        /** When a note ends that is let go at a frame: where the pedal is down, when that comes up. */
        private long released(long frame) {
            int at = upTo(pedal, frame);
            if (at < 0 || !down(pedal.get(at))) {
                return frame;
            }
            int up = at + 1;
            while (up < pedal.size() && down(pedal.get(up))) {
                up++;
            }
            return up < pedal.size() ? pedal.get(up).frame() : Math.max(frame, end);
        }

        private static boolean down(NoteChange change) {
            return change.value() >= 0.5;
        }
    }

    /** How many times as fast a bend from -1 to 1 plays a sample. */
    static double bend(double value) {
        return Making.step(0, value);
    }

    /** How loud a side is at a pan: the one that it goes to stays, the other falls by a cosine. */
    static double side(int plane, double pan) {
        double away = plane == 0 ? pan : -pan;
        return away <= 0 ? 1 : Math.cos(away * Math.PI / 2);
    }

    /**
     * Reads the next frames, or others.
     *
     * @param first the song's frame
     * @param out written over, {@code out[plane][0 .. count)}
     */
    public void read(long first, float[][] out, int count) {
        for (int p = 0; p < planes; p++) {
            Arrays.fill(out[p], 0, count, 0);
        }
        if (first != expected) {
            soundingCount = 0;
            next = 0;
        }
        expected = first + count;
        while (next < voices.length && voices[next].start < expected) {
            if (voices[next].end() > first) {
                sounding[soundingCount++] = next;
            }
            next++;
        }
        int kept = 0;
        for (int i = 0; i < soundingCount; i++) {
            Voice voice = voices[sounding[i]];
            voice.add(first, out, count);
            if (voice.end() > expected) {
                sounding[kept++] = sounding[i];
            }
        }
        soundingCount = kept;
        if (!volume.still() || !pan.still()) {
            shape(first, out, count);
        }
    }

    private void shape(long first, float[][] out, int count) {
        volume.seek(first);
        pan.seek(first);
        for (int i = 0; i < count; i++) {
            double level = volume.next();
            double where = pan.next();
            for (int p = 0; p < planes; p++) {
                out[p][i] *= (float) (level * (planes == 1 ? 1 : side(p, where)));
            }
        }
    }
}
