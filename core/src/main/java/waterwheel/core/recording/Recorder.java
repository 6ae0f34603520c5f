package waterwheel.core.recording;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.playback.InputListener;
import waterwheel.core.ports.PortRing;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;

/**
 * Records the inputs of some tracks, each into a file of its own that plays up to the last half second whatever happens.
 * The playing thread hands blocks over and never waits; a thread of the recorder writes. What the disk was too slow for is
 * silent and told.
 */
public final class Recorder implements InputListener, AutoCloseable {
    /** Where recordings go in a session's folder. */
    public static final String FOLDER = "recordings";
    /** How often what was written is made safe. */
    private static final double SECURE_SECONDS = 0.5;
    /** What the disk may be late with: five seconds at 48 kHz. */
    private static final int RING_FRAMES = 1 << 18;

    private static final int PART_FRAMES = 4_096;
    private final Session session;
    private final List<Part> parts = new ArrayList<>();
    private final PortRing ring;
    private final int[] inputs;
    private final Thread thread;
    private volatile boolean ending;
    private volatile @Nullable AudioFileException problem;
    /** The song's frame that went out with the first one that came in. */
    private volatile long began = -1;

    // Belong to the playing thread.
    private long next;
    private int missed;
    private long missedFrames;

    /** One track's file. */
    private static final class Part {
        private final Track track;
        private final Path file;
        private final WavWriter writer;
        private final float[][] planes;
        private final int first;
        private long frames;
        private long clipped;

        Part(Track track, Path file, WavWriter writer, int first) {
            this.track = track;
            this.file = file;
            this.writer = writer;
            this.first = first;
            planes = new float[track.planes()][PART_FRAMES];
        }
    }

    /**
     * Begins a file for each track.
     *
     * @param folder the session's
     * @param tracks that inputs feed
     * @throws AudioFileException if a file cannot be written
     */
    public Recorder(Path folder, Session session, List<Track> tracks) throws AudioFileException {
        this.session = session;
        Path into = folder.resolve(FOLDER);
        List<Integer> ports = new ArrayList<>();
        for (Track track : tracks) {
            Feed.Input input = track.input()
                    .orElseThrow(() -> new IllegalArgumentException(
                            "track: '" + track.name() + "' (expected: one that an input feeds)"));
            Path file = RecordedFile.free(into, track.id().value());
            parts.add(new Part(
                    track, file, WavWriter.createGrowing(file, track.planes(), session.sampleRateHz()), ports.size()));
            for (int p = 0; p < track.planes(); p++) {
                ports.add(input.port() - 1 + p);
            }
        }
        inputs = ports.stream().mapToInt(Integer::intValue).toArray();
        ring = new PortRing(inputs.length, RING_FRAMES);
        thread = Thread.ofPlatform().daemon().name("waterwheel-recording").start(this::write);
    }

    /** The tracks that are recorded. */
    public Set<ChannelId> tracks() {
        return parts.stream().map(part -> part.track.id()).collect(Collectors.toSet());
    }

    @Override
    public void hear(float[][] in, int frames, long songFrame) {
        if (began < 0) {
            began = songFrame;
            next = songFrame;
        }
        if (songFrame != next || ending) {
            // The song went elsewhere: what comes now belongs to another place.
            return;
        }
        next += frames;
        if (ring.room() < missed + frames) {
            missed += frames;
            missedFrames += frames;
            return;
        }
        for (int p = 0; p < inputs.length; p++) {
            boolean there = inputs[p] < in.length;
            for (int i = 0; i < missed; i++) {
                ring.put(p, i, 0);
            }
            for (int i = 0; i < frames; i++) {
                ring.put(p, missed + i, there ? in[inputs[p]][i] : 0);
            }
        }
        ring.pass(missed + frames);
        missed = 0;
    }

    private void write() {
        long secured = 0;
        long written = 0;
        try {
            while (!ending || ring.available() > 0) {
                int count = Math.min(PART_FRAMES, ring.available());
                if (count == 0) {
                    LockSupport.parkNanos(20_000_000);
                    continue;
                }
                for (Part part : parts) {
                    take(part, count);
                }
                ring.letGo(count);
                written += count;
                if (written - secured >= SECURE_SECONDS * session.sampleRateHz()) {
                    for (Part part : parts) {
                        part.writer.secure();
                    }
                    secured = written;
                }
            }
        } catch (AudioFileException e) {
            problem = e;
        }
    }

    private void take(Part part, int count) throws AudioFileException {
        for (int p = 0; p < part.planes.length; p++) {
            float[] plane = part.planes[p];
            for (int i = 0; i < count; i++) {
                plane[i] = ring.get(part.first + p, i);
            }
            part.clipped += RecordedFile.clipped(plane, 0, count);
        }
        part.writer.write(part.planes, 0, count);
        part.frames += count;
    }

    /** Whether the disk has refused; what was written before is there. */
    public boolean failed() {
        return problem != null;
    }

    /**
     * Ends the recording, once nobody hands over any more.
     *
     * @param lateFrames how much later something comes in than the song that it is played to goes out
     * @return what was recorded; files of nothing are removed
     * @throws AudioFileException if the disk refuses
     */
    public List<Recorded> finish(int lateFrames) throws AudioFileException {
        end();
        Set<SourceId> taken = session.sourceIds();
        List<Recorded> all = new ArrayList<>();
        for (Part part : parts) {
            if (part.frames == 0) {
                remove(part);
                continue;
            }
            part.writer.finish();
            all.add(new Recorded(part.track.id(), source(part, taken), began - lateFrames, part.clipped, missedFrames));
        }
        AudioFileException failed = problem;
        if (failed != null && all.isEmpty()) {
            throw failed;
        }
        return all;
    }

    private void end() {
        ending = true;
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static void remove(Part part) throws AudioFileException {
        try {
            part.writer.close();
            Files.deleteIfExists(part.file);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(part.file, e);
        }
    }

    private AudioSource source(Part part, Set<SourceId> taken) throws AudioFileException {
        SourceId id = SourceId.free("recording-" + FileStem.of(part.file), taken);
        return RecordedFile.source(id, FOLDER, part.file, part.frames, part.track.planes(), session.sampleRateHz());
    }

    /** Ends what was not finished; what was recorded stays in its files. */
    @Override
    public void close() throws AudioFileException {
        end();
        for (Part part : parts) {
            if (part.frames > 0) {
                part.writer.close();
            } else {
                remove(part);
            }
        }
    }
}
