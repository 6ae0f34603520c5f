package waterwheel.core.captures;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.audiofile.RecordedFile;
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
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;

/** The recording of one slot in a pass: what comes back into a file, and how loud is what was sent. */
final class Take implements AutoCloseable {
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
        String name = slot.channel().value() + "-" + slot.slot().value();
        return new Take(slot, session, plan, frames, RecordedFile.free(folder, name));
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
            clipped += RecordedFile.clipped(plane, from, end);
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
        SourceId id = SourceId.free("capture-" + FileStem.of(file), taken);
        return new Captured(
                slot,
                RecordedFile.source(id, folder, file, frames, planes, rate),
                new Capture(id, madeOf, figures.averageDbfs(), figures.samplePeakDbfs()),
                stem,
                clipped);
    }

    @Override
    public void close() throws AudioFileException {
        writer.close();
    }
}
