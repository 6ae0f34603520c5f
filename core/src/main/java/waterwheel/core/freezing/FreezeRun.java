package waterwheel.core.freezing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalFiles;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Renders channels up to some slot, all in one run of the song. A file is named by what it was made of, so that what was
 * frozen before and is not changed since is not rendered again.
 */
public final class FreezeRun {
    /** Where frozen sounds lie in a session's folder. */
    public static final String FOLDER = "frozen";

    /** Of what is noted of a file. */
    private static final String NOTE = ".note";

    private FreezeRun() {}

    /** A channel to freeze, and the last slot that is in its frozen sound; empty for only what is before the slots. */
    public record Wanted(ChannelId channel, Optional<SlotId> through) {
        /** Through a channel's last slot. */
        public static Wanted last(Channel channel) {
            List<Insert> inserts = channel.strip().inserts();
            return new Wanted(
                    channel.id(),
                    inserts.isEmpty()
                            ? Optional.empty()
                            : Optional.of(inserts.getLast().id()));
        }
    }

    /** A channel's sound and its file. */
    public record Rendered(ChannelId channel, Freeze freeze, AudioSource source) {
        /** Returns a session in which the channels play these; a channel that is gone meanwhile is left out. */
        public static Session into(Session session, List<Rendered> all) {
            Session out = session;
            for (Rendered one : all) {
                if (out.find(one.channel()).isPresent()) {
                    out = one.into(out);
                }
            }
            return out;
        }

        private Session into(Session session) {
            List<AudioSource> sources = new ArrayList<>(session.sources());
            if (sources.stream().noneMatch(source -> source.id().equals(freeze.source()))) {
                sources.add(source);
            }
            return session.withSources(sources).withStrip(channel, strip -> strip.withFreeze(Optional.of(freeze)));
        }
    }

    /**
     * Renders what is not there yet.
     *
     * @param folder the session's
     * @return by channel what can be played; nothing of the session is changed
     * @throws WaterwheelException if a file cannot be written; nothing is left under its name
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public static List<Rendered> run(Session session, Path folder, List<Wanted> wanted, Progress progress)
            throws WaterwheelException {
        Path into = folder.resolve(FOLDER);
        RecordedFile.makeFolder(into);
        Leftovers.sweep(into);
        try (Media media = Media.open(session, folder);
                Team team = Team.ofAllProcessors()) {
            List<FrozenPoint> points = wanted.stream()
                    .map(one -> new FrozenPoint(session.channel(one.channel()), one.through()))
                    .toList();
            Plan plan = FrozenPoint.in(PlanCompiler.compile(session), points);
            int first = plan.signals().size() - points.size();
            List<String> madeOf = FrozenPoint.madeOf(plan, points, media);
            List<Path> files = new ArrayList<>();
            BitSet missing = new BitSet();
            for (int i = 0; i < wanted.size(); i++) {
                Path file = into.resolve(madeOf.get(i) + RecordedFile.ENDING);
                missing.set(first + i, !Files.isRegularFile(file) && !files.contains(file));
                files.add(file);
            }
            List<SignalFiles.Target> targets = missing.stream()
                    .mapToObj(i -> new SignalFiles.Target(i, files.get(i - first)))
                    .toList();
            SignalFiles.write(plan, media, team, targets, SampleEncoding.FLOAT_32, progress);
            List<Integer> each = IntStream.range(0, wanted.size()).boxed().toList();
            List<Rendered> all = team.map(each, i -> {
                Channel channel = points.get(i).channel();
                AudioSource source = source(session, plan, channel, files.get(i));
                return new Rendered(
                        channel.id(), new Freeze(wanted.get(i).through(), source.id(), madeOf.get(i)), source);
            });
            progress.at(1);
            return all;
        }
    }

    private static AudioSource source(Session session, Plan plan, Channel channel, Path file)
            throws AudioFileException {
        String path = FOLDER + "/" + file.getFileName();
        Optional<AudioSource> known = session.sources().stream()
                .filter(source -> source.path().equals(path))
                .findFirst();
        if (known.isPresent()) {
            return known.get();
        }
        try {
            return RecordedFile.source(
                    new SourceId("frozen-" + FileStem.of(file)),
                    FOLDER,
                    file,
                    plan.lengthFrames(),
                    channel.planes(),
                    plan.sampleRateHz(),
                    SampleEncoding.FLOAT_32,
                    hash(file));
        } catch (IOException e) {
            throw AudioFileException.cannotWrite(file, e);
        }
    }

    /** A file's hash, noted beside it with the time of the file, so that it is read for it only once. */
    private static String hash(Path file) throws IOException {
        Path note = file.resolveSibling(FileStem.of(file) + NOTE);
        String time = Files.getLastModifiedTime(file).toMillis() + " ";
        if (Files.isRegularFile(note)) {
            String noted = Files.readString(note);
            if (noted.startsWith(time) && noted.length() < 200) {
                return noted.substring(time.length());
            }
        }
        String hash = ContentHash.of(file);
        AsideFile.write(note, path -> Files.writeString(path, time + hash));
        return hash;
    }

    /** Removes frozen sounds that a session does not play; once it is saved, and never what others put there. */
    public static void sweep(Session session, Path folder) {
        Path from = folder.resolve(FOLDER);
        if (!Files.isDirectory(from)) {
            return;
        }
        try (Stream<Path> files = Files.list(from)) {
            for (Path file : files.toList()) {
                String name = String.valueOf(file.getFileName());
                boolean ours = name.matches("[0-9a-f]{32}\\.(wav|note)");
                String path = FOLDER + "/" + name.replace(NOTE, RecordedFile.ENDING);
                if (ours && session.sources().stream().noneMatch(s -> s.path().equals(path))) {
                    Files.delete(file);
                }
            }
        } catch (IOException e) {
            // Next time.
        }
    }
}
