package waterwheel.core.instruments;

import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.sources.SourceId;

/**
 * An instrument that is played by hand. Any thread presses keys and lets them go, and makes the voices for it; the playing
 * thread takes them at the beginning of a block, and allocates nothing. What is played by hand is heard a block later, and
 * its bend not until it is played back.
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
    }

    /** A voice that sounds, for a track of one plane and for one of two. */
    private static final class Live {
        private final int output;
        private final int key;
        private final Voice mono;
        private final Voice stereo;
        private long start;
        private boolean held = true;
        private boolean released;

        Live(int output, int key, Voice mono, Voice stereo) {
            this.output = output;
            this.key = key;
            this.mono = mono;
            this.stereo = stereo;
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
        List<Live> voices = new ArrayList<>();
        for (int output : instrument.outputs()) {
            Performance performance = new Performance(instrument, Notes.none(sampleRateHz), output);
            List<Voice> mono = Performer.byHand(performance, 1, sampleRateHz, samples, note, turn);
            List<Voice> stereo = Performer.byHand(performance, 2, sampleRateHz, samples, note, turn);
            for (int i = 0; i < mono.size(); i++) {
                voices.add(new Live(output, key, mono.get(i), stereo.get(i)));
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
