package waterwheel.core.stems;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.BroadcastInfo;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Team;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Detail;
import waterwheel.core.routing.Wiring;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;

/** Renders stems and mix, proves them, and only then gives the files their names. */
public final class StemRender {
    /** Name of the manifest beside the files. */
    public static final String MANIFEST = "stems.json";

    /** Name of the readable report beside the files. */
    public static final String REPORT = "stems.html";

    private static final String CUES = "cues";

    private StemRender() {}

    /**
     * Renders a session's stems and its mix.
     *
     * @param sessionFolder from which relative paths of sources start
     * @return what was written, with the proof
     * @throws WaterwheelException if a source is missing or the folder cannot be written; nothing is left behind
     * @throws CancellationException if the progress says stop; likewise
     */
    public static StemResult render(Session session, Path sessionFolder, StemRequest request, Progress progress)
            throws WaterwheelException {
        try (Media media = Media.open(session, sessionFolder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            refuseMissing(session, media);
            StemForecast forecast = StemForecast.of(
                    session,
                    StemForecast.measure(
                            session, request.division(), request.tailSeconds(), song, progress.part(0, 0.2)),
                    request.policy());
            if (forecast.written().stream().noneMatch(StemForecast.Stem::inMix)) {
                throw new RenderException(
                        "There is nothing to render: every track of the mix is silent or muted.",
                        "Unmute a track, or end the solo.");
            }
            return intoAside(session, request, forecast, media, team, progress.part(0.2, 1));
        }
    }

    private static void refuseMissing(Session session, Media media) throws AudioFileException {
        for (AudioSource source : session.sources()) {
            AudioFileException problem = media.problem(source.id());
            if (problem != null) {
                throw problem;
            }
        }
    }

    private static StemResult intoAside(
            Session session, StemRequest request, StemForecast forecast, Media media, Team team, Progress progress)
            throws WaterwheelException {
        Path aside = null;
        try {
            Files.createDirectories(request.folder());
            aside = Files.createTempDirectory(request.folder(), ".rendering-");
            List<StemResult.Written> written =
                    writeAll(session, request, forecast, aside, media, team, progress.part(0, 0.7));
            StemProof proof = StemProof.of(
                    aside,
                    written,
                    request.format().encoding(),
                    processedTogether(session, request.division()),
                    team,
                    progress.part(0.7, 1));
            StemResult result = new StemResult(session, request, forecast, written, proof);
            for (StemResult.Written file : written) {
                Path target = request.folder().resolve(file.path());
                Files.createDirectories(target.toAbsolutePath().getParent());
                move(aside.resolve(file.path()), target);
            }
            Files.writeString(aside.resolve(MANIFEST), ManifestJson.text(result), StandardCharsets.UTF_8);
            Files.writeString(aside.resolve(REPORT), StemReport.html(result), StandardCharsets.UTF_8);
            move(aside.resolve(MANIFEST), request.folder().resolve(MANIFEST));
            move(aside.resolve(REPORT), request.folder().resolve(REPORT));
            progress.at(1);
            return result;
        } catch (IOException e) {
            throw new RenderException(
                    "The folder " + request.folder() + " cannot be written: " + e.getMessage() + ".",
                    "Choose another folder, or check its rights and the space on the disk.",
                    e);
        } finally {
            if (aside != null) {
                deleteTree(aside);
            }
        }
    }

    private static List<StemResult.Written> writeAll(
            Session session,
            StemRequest request,
            StemForecast forecast,
            Path aside,
            Media media,
            Team team,
            Progress progress)
            throws WaterwheelException, IOException {
        List<StemForecast.Stem> stems = forecast.written().stream()
                .filter(stem -> stem.inMix() || request.cues())
                .toList();
        Map<ChannelId, StemDivision.Group> groups = request.division().of(session).stream()
                .collect(Collectors.toMap(group -> group.channel().id(), group -> group));
        double share = 1.0 / (stems.size() + 1);
        Plan mixPlan = StemForecast.lasting(PlanCompiler.compile(session, forecast.gainDb()), request.tailSeconds());
        List<StemResult.Written> written = new ArrayList<>();
        String mix = StemResult.MIX + request.format().ending();
        written.add(StemResult.Written.mix(
                mix,
                SignalWriter.write(
                        mixPlan,
                        mixPlan.output(),
                        media,
                        team,
                        aside.resolve(mix),
                        request.format(),
                        about(session, "mix"),
                        progress.part(0, share))));
        Files.createDirectories(aside.resolve(CUES));
        // A stem has too little to do for several threads, so each thread renders stems of its own.
        JointProgress joint = new JointProgress(progress.part(share, 1), stems.size());
        StemResult.Written[] done = new StemResult.Written[stems.size()];
        AtomicReference<@Nullable AudioFileException> failure = new AtomicReference<>();
        team.run(stems.size(), i -> {
            try {
                done[i] = writeStem(
                        session,
                        request,
                        forecast.gainDb(),
                        stems.get(i),
                        Objects.requireNonNull(groups.get(stems.get(i).channel())),
                        aside,
                        media,
                        joint.part(i));
            } catch (AudioFileException e) {
                failure.set(e);
            }
        });
        AudioFileException thrown = failure.get();
        if (thrown != null) {
            throw thrown;
        }
        written.addAll(List.of(done));
        return written;
    }

    private static StemResult.Written writeStem(
            Session session,
            StemRequest request,
            double gainDb,
            StemForecast.Stem stem,
            StemDivision.Group group,
            Path aside,
            Media media,
            Progress progress)
            throws AudioFileException {
        Plan plan = StemForecast.plan(session, group, gainDb, request.tailSeconds());
        String path = (stem.inMix() ? "" : CUES + "/")
                + stem.fileName()
                + request.format().ending();
        long held = SignalWriter.write(
                plan,
                plan.monitor(),
                media,
                Team.alone(),
                aside.resolve(path),
                request.format(),
                about(session, stem.name()),
                progress);
        return new StemResult.Written(
                stem.inMix() ? StemResult.Role.STEM : StemResult.Role.CUE, stem.name(), path, held);
    }

    /** Buses whose inserts answer to what several stems are made of, so that a stem alone is treated otherwise. */
    private static List<String> processedTogether(Session session, StemDivision division) {
        List<StemDivision.Group> groups = division.of(session);
        Wiring wiring = Wiring.mixed(session);
        Set<Send.Target> keys = session.channels().stream()
                .flatMap(channel -> channel.strip().sends().stream())
                .filter(Send::on)
                .map(Send::target)
                .collect(Collectors.toSet());
        return session.buses().stream()
                .filter(bus -> bus.strip().activeInserts().stream()
                        .anyMatch(i -> answersToLevel(i.processor().kind())
                                && !keys.contains(new Send.ToKey(bus.id(), i.id()))))
                .filter(bus -> {
                    Set<ChannelId> before = wiring.upstream(List.of(bus.id()));
                    return groups.stream()
                                    .filter(group -> group.tracks().stream().anyMatch(before::contains))
                                    .count()
                            > 1;
                })
                .map(Bus::name)
                .toList();
    }

    private static boolean answersToLevel(ProcessorKind kind) {
        return switch (kind) {
            case COMPRESSOR, MULTIBAND, GATE, LIMITER, SATURATOR, TONE -> true;
            case EQUALISER, STEREO, DELAY, REVERB, CONVOLUTION -> false;
        };
    }

    /** Every file of a render begins at the session's time 0. */
    private static BroadcastInfo about(Session session, String what) {
        return new BroadcastInfo(session.title() + ": " + what, "Waterwheel", 0);
    }

    /**
     * Renders the mix alone to a file.
     *
     * @param tailSeconds how long the file goes on after the song's end
     */
    public static StemResult.Written mix(
            Session session, Path sessionFolder, Path file, RenderFormat format, double tailSeconds, Progress progress)
            throws WaterwheelException {
        try (Media media = Media.open(session, sessionFolder);
                Team team = Team.ofAllProcessors()) {
            refuseMissing(session, media);
            Plan plan = StemForecast.lasting(PlanCompiler.compile(session), tailSeconds);
            long limited =
                    SignalWriter.write(plan, plan.output(), media, team, file, format, about(session, "mix"), progress);
            return StemResult.Written.mix(file.toString(), limited);
        }
    }

    private static void move(Path from, Path to) throws IOException {
        Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    private static void deleteTree(Path root) throws RenderException {
        try (Stream<Path> files = Files.walk(root)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(file);
            }
        } catch (IOException e) {
            throw new RenderException(
                    "The unfinished files in " + root + " cannot be removed: " + e.getMessage() + ".",
                    "Remove them by hand.",
                    e);
        }
    }
}
