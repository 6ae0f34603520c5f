package waterwheel.core.songs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFileWriter;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.FileTags;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalFiles;
import waterwheel.core.engine.SignalId;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** One file of a song with its parts on channels: the engine renders what is heard together, and it is laid side by side. */
final class ChannelFile {
    private static final int BLOCK = 1 << 13;
    /** What half the sum of both sides is turned down by, where the pan law turns nothing down. */
    private static final double HALF_DB = Decibels.ofFactor(0.5);

    private final SongSession song;
    private final ChannelPlan channels;
    private final Path folder;

    /** @param folder that relative paths of sources start from */
    ChannelFile(SongSession song, ChannelPlan channels, Path folder) {
        this.song = song;
        this.channels = channels;
        this.folder = folder;
    }

    /**
     * What was written, read back.
     *
     * @param atLimit samples that had to be held at the format's limit
     * @param residualPeakDbfs largest difference between the file and what was rendered
     * @param resolutionDbfs what that may be at most
     */
    record Written(List<DeliveredPart> parts, long atLimit, double residualPeakDbfs, double resolutionDbfs) {
        boolean holds() {
            return atLimit == 0 && residualPeakDbfs <= resolutionDbfs;
        }
    }

    /**
     * Renders it.
     *
     * @throws AudioFileException if the file cannot be written
     * @throws java.util.concurrent.CancellationException if the progress says stop; nothing is left then
     */
    Written write(Path file, RenderFormat format, Team team, Progress progress) throws AudioFileException {
        Session session = session();
        Path aside = Leftovers.name(file.resolveSibling(""), "rendering");
        try (Media media = Media.open(session, folder)) {
            Files.createDirectories(aside);
            List<Path> rendered = render(session, aside, media, team, progress.part(0, 0.6));
            Written written = join(session, rendered, file, format, progress.part(0.6, 1));
            progress.at(1);
            return written;
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file, e);
        } finally {
            removed(aside);
        }
    }

    private static void removed(Path aside) {
        try {
            Leftovers.deleteTree(aside);
        } catch (IOException e) {
            // What stays is swept the next time.
        }
    }

    /** The song with a bus for each lane in place of the sum. */
    private Session session() {
        Session session = song.session();
        List<Channel> all = new ArrayList<>(session.channels());
        for (int i = 0; i < channels.lanes().size(); i++) {
            ChannelPlan.Lane lane = channels.lanes().get(i);
            Strip strip = Strip.unity(new Output.Nowhere());
            if (lane.planes() == 1) {
                strip = strip.withFaderDb(HALF_DB).withPlacement(Placement.CENTRE.withWidth(0));
            }
            all.add(new Bus(id(i), lane.name(), strip));
        }
        Session with = session.withChannels(all);
        for (SongSession.PartBus one : song.parts()) {
            Output output = lane(one.part().name());
            with = with.withStrip(one.bus(), strip -> strip.withOutput(output));
        }
        return with;
    }

    private static ChannelId id(int lane) {
        return new ChannelId("lane" + (lane + 1));
    }

    private Output lane(String part) {
        for (int i = 0; i < channels.lanes().size(); i++) {
            if (channels.lanes().get(i).parts().contains(part)) {
                return Output.to(id(i));
            }
        }
        return new Output.Nowhere();
    }

    private List<Path> render(Session session, Path aside, Media media, Team team, Progress progress)
            throws AudioFileException {
        Plan plain = PlanCompiler.compile(session);
        Plan plan = plain;
        List<Path> files = new ArrayList<>();
        List<SignalFiles.Target> targets = new ArrayList<>();
        for (int i = 0; i < channels.lanes().size(); i++) {
            Path file = aside.resolve(i + ".wav");
            files.add(file);
            targets.add(new SignalFiles.Target(plan.signals().size(), file));
            plan = plan.withTap(
                    new SignalId(id(i), SignalId.Point.PRINTED, ""),
                    plain.stage(id(i), Stage.OUTPUT, "").orElseThrow().edge());
        }
        SignalFiles.write(plan, media, team, targets, SampleEncoding.FLOAT_32, progress);
        return files;
    }

    private Written join(Session session, List<Path> rendered, Path file, RenderFormat format, Progress progress)
            throws AudioFileException {
        List<AudioFile> lanes = new ArrayList<>();
        try {
            for (Path one : rendered) {
                lanes.add(AudioFiles.open(one));
            }
            long frames = session.lengthFrames();
            FileTags about = FileTags.of(session.title(), "song");
            long atLimit;
            try (AudioFileWriter writer =
                    AudioFileWriter.create(file, channels.channels(), session.sampleRateHz(), format, frames, about)) {
                Side side = new Side(lanes);
                for (long at = 0; at < frames; at += BLOCK) {
                    progress.check();
                    int length = (int) Math.min(BLOCK, frames - at);
                    writer.write(side.read(at, length), 0, length);
                    progress.at(0.5 * at / frames);
                }
                writer.finish();
                atLimit = writer.limitedSamples();
            }
            return readBack(file, format, lanes, atLimit, progress);
        } finally {
            lanes.forEach(AudioFile::close);
        }
    }

    /** Reads what was rendered side by side. */
    private final class Side {
        private final List<AudioFile.Reader> readers;
        private final float[][] planes = new float[channels.channels()][BLOCK];
        private final float[][] pair = new float[2][BLOCK];

        Side(List<AudioFile> files) {
            readers = files.stream().map(file -> file.reader(BLOCK)).toList();
        }

        float[][] read(long from, int frames) {
            int plane = 0;
            for (int i = 0; i < readers.size(); i++) {
                readers.get(i).read(from, pair, 0, frames);
                for (int p = 0; p < channels.lanes().get(i).planes(); p++) {
                    System.arraycopy(pair[p], 0, planes[plane++], 0, frames);
                }
            }
            return planes;
        }
    }

    private Written readBack(Path file, RenderFormat format, List<AudioFile> lanes, long atLimit, Progress progress)
            throws AudioFileException {
        try (AudioFile audio = AudioFiles.open(file)) {
            long frames = audio.format().frames();
            List<SeriesMeter> meters = channels.lanes().stream()
                    .map(lane ->
                            new SeriesMeter(audio.format().sampleRateHz(), lane.planes(), frames, Detail.EVERYTHING))
                    .toList();
            AudioFile.Reader reader = audio.reader(BLOCK);
            Side side = new Side(lanes);
            float[][] found = new float[channels.channels()][BLOCK];
            double residual = 0;
            double peak = 0;
            for (long at = 0; at < frames; at += BLOCK) {
                progress.check();
                int length = (int) Math.min(BLOCK, frames - at);
                reader.read(at, found, 0, length);
                float[][] rendered = side.read(at, length);
                for (int p = 0; p < found.length; p++) {
                    for (int i = 0; i < length; i++) {
                        residual = Math.max(residual, Math.abs((double) found[p][i] - rendered[p][i]));
                        peak = Math.max(peak, Math.abs(found[p][i]));
                    }
                }
                measure(meters, found, length);
                progress.at(0.5 + 0.5 * at / frames);
            }
            double step =
                    format.encoding().fixedPoint() ? 1.5 / format.encoding().fullScaleSteps() : 0;
            return new Written(
                    parts(file, meters),
                    atLimit,
                    Decibels.ofFactor(residual),
                    Decibels.ofFactor(step + peak * 0x1p-24));
        }
    }

    private void measure(List<SeriesMeter> meters, float[][] found, int frames) {
        int plane = 0;
        for (int i = 0; i < meters.size(); i++) {
            int planes = channels.lanes().get(i).planes();
            float[][] own = new float[planes][];
            for (int p = 0; p < planes; p++) {
                own[p] = found[plane++];
            }
            meters.get(i).process(own, 0, frames);
        }
    }

    private List<DeliveredPart> parts(Path file, List<SeriesMeter> meters) {
        List<DeliveredPart> parts = new ArrayList<>();
        int first = 1;
        for (int i = 0; i < meters.size(); i++) {
            ChannelPlan.Lane lane = channels.lanes().get(i);
            String where = lane.planes() == 1 ? "channel " + first : "channels " + first + " and " + (first + 1);
            first += lane.planes();
            parts.add(new DeliveredPart(
                    lane.name(),
                    file.getFileName() + ", " + where,
                    false,
                    Level.of(Figures.of(meters.get(i).finish()))));
        }
        return parts;
    }
}
