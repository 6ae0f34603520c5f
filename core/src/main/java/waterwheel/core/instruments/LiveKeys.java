package waterwheel.core.instruments;

import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.notes.Notes;
import waterwheel.core.sources.SourceId;

/**
 * An instrument that is played by hand. Any thread presses keys and lets them go, and makes the voices for it; the playing
 * thread takes them at the beginning of a block, and allocates nothing. What is played by hand is heard a block later.
 */
public final class LiveKeys {
    private static final int MOST = 256;
    private static final long HELD = 1L << 40;

    private final Instrument instrument;
    private final int sampleRateHz;
    private final Function<SourceId, Sample> samples;
    private final Queue<Event> events = new ConcurrentLinkedQueue<>();
    /** How often each key was pressed. */
    private final AtomicIntegerArray turns = new AtomicIntegerArray(Note.KEYS);
    /** How far the wheel is turned, for keys that are pressed meanwhile. */
    private volatile double bend;

    // Belong to the playing thread.
    private final @Nullable Live[] sounding = new Live[MOST];
    private int count;
    private long clock;
    private boolean pedal;

    /** Something done by hand. */
    private sealed interface Event {
        record Press(List<Live> voices) implements Event {}

        record LetGo(int key) implements Event {}

        record Pedal(boolean down) implements Event {}

        record Bend(double value) implements Event {}
    }

    /** A voice that sounds, for a track of one plane and for one of two. */
    private static final class Live {
        private final int output;
        private final int key;
        private final Voice mono;
        private final Voice stereo;
        /** The voices' step without a bend. */
        private final double step;
        /** Made before it is played, for whatever bend. */
        private final Kernel bent;

        private long start;
        private boolean held = true;
        private boolean released;

        /** @param bend with which they begin */
        Live(int output, int key, Voice mono, Voice stereo, double bend) {
            this.output = output;
            this.key = key;
            this.mono = mono;
            this.stereo = stereo;
            step = mono.firstStep() / Performer.bend(bend);
            bent = Kernel.of(step * Performer.bend(1));
        }

        void bend(long frame, double value) {
            double now = step * Performer.bend(value);
            mono.bend(frame - start, now, bent);
            stereo.bend(frame - start, now, bent);
        }

        void letGo(long frame) {
            released = true;
            mono.letGo(frame - start);
            stereo.letGo(frame - start);
        }
    }

    /** @param samples the samples of a file; asked on the thread that presses a key */
    public LiveKeys(Instrument instrument, int sampleRateHz, Function<SourceId, Sample> samples) {
        this.instrument = instrument;
        this.sampleRateHz = sampleRateHz;
        this.samples = samples;
    }

    public Instrument instrument() {
        return instrument;
    }

    /**
     * Presses a key.
     *
     * @param velocity 1 to 127
     */
    public void press(int key, int velocity) {
        Note note = new Note(0, HELD, key, velocity);
        int turn = turns.getAndIncrement(key);
        double bent = bend;
        Notes notes = new Notes(
                List.of(),
                List.of(new NoteChange(0, NoteChange.Kind.BEND, bent)),
                Notes.none(sampleRateHz).tempo());
        List<Live> voices = new ArrayList<>();
        for (int output : instrument.outputs()) {
            Performance performance = new Performance(instrument, notes, output);
            List<Voice> mono = Performer.byHand(performance, 1, sampleRateHz, samples, note, turn);
            List<Voice> stereo = Performer.byHand(performance, 2, sampleRateHz, samples, note, turn);
            for (int i = 0; i < mono.size(); i++) {
                voices.add(new Live(output, key, mono.get(i), stereo.get(i), bent));
            }
        }
        events.add(new Event.Press(List.copyOf(voices)));
    }

    /** Lets a key go; with the pedal down it sounds on. */
    public void letGo(int key) {
        events.add(new Event.LetGo(key));
    }

    public void pedal(boolean down) {
        events.add(new Event.Pedal(down));
    }

    /**
     * Bends all keys, those that sound and those that are pressed from now on.
     *
     * @param value from -1, two semitones down, to 1
     */
    public void bend(double value) {
        bend = value;
        events.add(new Event.Bend(value));
    }

    /** Takes what was done by hand since the last block. */
    public void begin() {
        for (Event event = events.poll(); event != null; event = events.poll()) {
            switch (event) {
                case Event.Press press -> {
                    for (int i = 0; i < press.voices().size() && count < MOST; i++) {
                        Live live = press.voices().get(i);
                        live.start = clock;
                        sounding[count++] = live;
                    }
                }
                case Event.LetGo letGo -> {
                    for (int i = 0; i < count; i++) {
                        Live live = sounding[i];
                        if (live != null && live.key == letGo.key() && live.held) {
                            live.held = false;
                            if (!pedal) {
                                live.letGo(clock);
                            }
                        }
                    }
                }
                case Event.Bend bend -> {
                    for (int i = 0; i < count; i++) {
                        Live live = sounding[i];
                        if (live != null) {
                            live.bend(clock, bend.value());
                        }
                    }
                }
                case Event.Pedal down -> {
                    if (pedal && !down.down()) {
                        for (int i = 0; i < count; i++) {
                            Live live = sounding[i];
                            if (live != null && !live.held && !live.released) {
                                live.letGo(clock);
                            }
                        }
                    }
                    pedal = down.down();
                }
            }
        }
    }

    /** Adds what comes out of an output to the block; however often it is asked in one. */
    public void add(int output, float[][] planes, int frames) {
        for (int i = 0; i < count; i++) {
            Live live = sounding[i];
            if (live != null && live.output == output) {
                (planes.length == 1 ? live.mono : live.stereo).add(clock - live.start, planes, frames);
            }
        }
    }

    /** Ends the block. */
    public void end(int frames) {
        clock += frames;
        int kept = 0;
        for (int i = 0; i < count; i++) {
            Live live = sounding[i];
            if (live != null && live.mono.end() > clock - live.start) {
                sounding[kept++] = live;
            }
        }
        for (int i = kept; i < count; i++) {
            sounding[i] = null;
        }
        count = kept;
    }
}
