package waterwheel.core.captures;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.rack.Capture;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** The recording of one slot in a pass: what comes back into a file, and how loud is what was sent. */
final class Take implements AutoCloseable {
    /** Nearer to full scale than this a converter has clipped. */
    private static final float FULL_SCALE = 0.999_999f;

    private final HardwareSlot slot;
    private final int sent;
    private final int returned;
    private final int late;
    private final int planes;
    private final int rate;
    private final long frames;
    private final long songFrames;
    private final Path file;
    private final WavWriter writer;
    private final SeriesMeter meter;
    private long clipped;

    private Take(HardwareSlot slot, Session session, Plan plan, long frames, Path file) throws AudioFileException {
        this.slot = slot;
        this.frames = frames;
        this.file = file;
        sent = Captures.sent(plan, slot, false);
        returned = Captures.returned(plan, slot, false);
        late = plan.latencies().get(sent);
        planes = plan.signals().get(returned).planes();
        rate = session.sampleRateHz();
        songFrames = session.lengthFrames();
        writer = WavWriter.createExact(file, planes, rate, SampleEncoding.FLOAT_32, frames);
        meter = new SeriesMeter(rate, planes, songFrames, Detail.LEVELS);
    }

    /**
     * Begins a file of a name that no other has: recordings are never replaced.
     *
     * @param frames how long it will be
     */
    static Take begin(Path folder, Session session, Plan plan, HardwareSlot slot, long frames)
            throws AudioFileException {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(folder, e);
        }
        String name = slot.channel().value() + "-" + slot.slot().value() + "-";
        int number = 1;
        while (Files.exists(folder.resolve(name + number + ".wav"))) {
            number++;
        }
        return new Take(slot, session, plan, frames, folder.resolve(name + number + ".wav"));
    }

    int returned() {
        return returned;
    }

    /** By how many frames what it sends is late. */
    int late() {
        return late;
    }

    /** Takes the run's last block, which began at a frame of the engine. */
    void hear(PlanRun run, long at, int count) throws AudioFileException {
        int from = Math.clamp(late - at, 0, count);
        int end = Math.clamp(late + frames - at, 0, count);
        if (end <= from) {
            return;
        }
        float[][] back = run.signal(returned);
        writer.write(back, from, end - from);
        for (float[] plane : back) {
            for (int i = from; i < end; i++) {
                clipped += Math.abs(plane[i]) >= FULL_SCALE ? 1 : 0;
            }
        }
        int songEnd = Math.clamp(late + songFrames - at, 0, count);
        if (songEnd > from) {
            meter.process(run.signal(sent), from, songEnd - from);
        }
    }

    /**
     * Closes the file under its name.
     *
     * @param folder the recording's, in the session's folder
     * @param states of the session that was run
     * @param stem whose share was sent; empty for the whole
     * @param taken ids of sources; gains one
     */
    Captured finished(String folder, List<SlotState> states, Optional<ChannelId> stem, Set<SourceId> taken)
            throws AudioFileException {
        writer.finish();
        String madeOf = states.stream()
                .filter(state -> state.slot().equals(slot))
                .findFirst()
                .orElseThrow()
                .madeOf();
        Figures figures = Figures.of(meter.finish());
        SourceId id =
                SourceId.free("capture-" + String.valueOf(file.getFileName()).replace(".wav", ""), taken);
        try {
            AudioSource source = new AudioSource(
                    id,
                    folder + "/" + file.getFileName(),
                    frames,
                    planes,
                    rate,
                    SampleEncoding.FLOAT_32.label(),
                    ContentHash.of(file),
                    Files.getLastModifiedTime(file).toMillis(),
                    Optional.empty());
            return new Captured(
                    slot,
                    source,
                    new Capture(id, madeOf, figures.averageDbfs(), figures.samplePeakDbfs()),
                    stem,
                    clipped);
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file, e);
        }
    }

    @Override
    public void close() throws AudioFileException {
        writer.close();
    }
}
