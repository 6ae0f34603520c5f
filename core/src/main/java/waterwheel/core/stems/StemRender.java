package waterwheel.core.stems;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.CancellationException;
import waterwheel.core.audiofile.FileTags;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.captures.Captures;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.StemShare;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.WrittenSignal;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Renders stems and mix, proves them, and only then gives the files their names. */
public final class StemRender {
    /** Name of the manifest beside the files. */
    public static final String MANIFEST = "stems.json";

    /** Name of the readable report beside the files. */
    public static final String REPORT = "stems.html";

    /** Name of the list of checksums beside the files. */
    public static final String CHECKSUMS = "stems.sha256";

    /** Where 32-bit floats end: 2 to the 128th. */
    private static final double MOST_FLOAT_DBFS = 770;

    /** A peak that was to be just at the limit is there but for rounding. */
    private static final double ROUNDING_DB = 1e-6;

    private StemRender() {}

    /**
     * Renders a session's stems and its mix.
     *
     * @param whole the session
     * @param sessionFolder from which relative paths of sources start
     * @return what was written, with the proof
     * @throws WaterwheelException if a source is missing, or the folder cannot be written or may not be rendered to;
     *     whatever lay in it is as it was
     * @throws CancellationException if the progress says stop; likewise
     */
    public static StemResult render(Session whole, Path sessionFolder, StemRequest request, Progress progress)
            throws WaterwheelException {
        return render(whole, sessionFolder, request, MeasureCache.in(sessionFolder), progress);
    }

    /** The same with measurements that are kept elsewhere than in the session's folder, or nowhere. */
    public static StemResult render(
            Session whole, Path sessionFolder, StemRequest request, MeasureCache cache, Progress progress)
            throws WaterwheelException {
        Session session = request.settings().tap().of(whole);
        RenderPlace place = new RenderPlace(whole, sessionFolder);
        place.checkFolder(request.folder());
        Leftovers.sweep(request.folder());
        try (Media media = Media.open(session, sessionFolder);
                Team team = Team.ofAllProcessors();
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, cache)) {
            refuseMissing(session, media);
            refuseOpen(session, request, media);
            refuseEmpty(session, request.settings());
            StemPlans plans = StemPlans.of(session, request.settings(), media);
            StemForecast forecast = StemForecast.of(
                    session,
                    // What is wanting of hardware was refused, or is left out on purpose.
                    StemForecast.measure(session, request.settings(), plans, 0, song, progress.part(0, 0.4)),
                    request.policy(),
                    request.names());
            if (forecast.written().stream().noneMatch(StemForecast.Stem::inMix)) {
                throw new RenderException(
                        "There is nothing to render: every track of the mix is silent or muted.",
                        "Unmute a track, or end the solo.");
            }
            refuseBeyond(forecast, request.format());
            place.checkFiles(targets(forecast, request), request.overwrite());
            RenderPlace.checkSpace(
                    request.folder(),
                    bytes(request.settings().frames(session), request.format())
                            * (StemFiles.written(forecast, request).size() + 1));
            return intoAside(session, request, forecast, plans, media, team, progress.part(0.4, 1));
        }
    }

    /** The files that a render will write. */
    public static List<Path> targets(StemForecast forecast, StemRequest request) {
        List<Path> targets = new ArrayList<>();
        targets.add(request.folder().resolve(StemResult.MIX + request.format().ending()));
        StemFiles.written(forecast, request)
                .forEach(stem -> targets.add(request.folder().resolve(StemFiles.path(stem, request))));
        targets.add(request.folder().resolve(MANIFEST));
        targets.add(request.folder().resolve(REPORT));
        targets.add(request.folder().resolve(CHECKSUMS));
        return targets;
    }

    /** At most what a stereo file of a song takes. */
    private static long bytes(long frames, RenderFormat format) {
        return frames * 2 * format.encoding().bytes();
    }

    private static void refuseEmpty(Session session, StemSettings settings) throws RenderException {
        if (settings.only().isPresent() && settings.fromFrame() >= session.lengthFrames()) {
            throw new RenderException(
                    settings.only().get().name() + " begins behind the song's end.", "Choose another stretch.");
        }
    }

    /** How many frames a render has: the song and its tail. */
    public static long frames(Session session, double tailSeconds) {
        return StemSettings.USUAL.withTailSeconds(tailSeconds).frames(session);
    }

    /** A gain that the policy asks for may not take a file beyond what its format can hold. */
    private static void refuseBeyond(StemForecast forecast, RenderFormat format) throws RenderException {
        double most = format.encoding().fixedPoint() ? 0 : MOST_FLOAT_DBFS;
        for (StemForecast.Stem stem : forecast.stems()) {
            refuseBeyond(stem.name(), stem.gainDb(), stem.figures(), most, format);
        }
        refuseBeyond(StemResult.MIX, forecast.gainDb(), forecast.mix(), most, format);
    }

    private static void refuseBeyond(String name, double gainDb, Figures figures, double most, RenderFormat format)
            throws RenderException {
        if (gainDb > 0 && figures.samplePeakDbfs() > most + ROUNDING_DB) {
            throw new RenderException(
                    "A gain of " + LevelText.change(gainDb) + " would take " + name + " to "
                            + LevelText.level(figures.samplePeakDbfs(), "dBFS") + ", beyond what "
                            + format.label() + " holds.",
                    "Ask for less, or render 32-bit float.");
        }
    }

    private static void refuseMissing(Session session, Media media) throws AudioFileException {
        Set<SourceId> frozen = FreezeLock.sources(session);
        for (AudioSource source : session.sources()) {
            // A frozen sound that is missing is no loss: it is computed.
            if (frozen.contains(source.id())) {
                continue;
            }
            AudioFileException problem = media.problem(source.id());
            if (problem != null) {
                throw problem;
            }
        }
    }

    /** A capture belongs to what was sent: what a bus sends of one stem is not what it sends of the whole. */
    private static void refuseOpen(Session session, StemRequest request, Media media) throws RenderException {
        if (request.incomplete() || HardwareSlot.of(session).isEmpty()) {
            return;
        }
        Captures.refuseOpen(session, PlanCompiler.compile(session), media, "The mix");
        for (StemShare share : request.settings().shares(session)) {
            Captures.refuseOpen(session, share, media);
        }
    }

    private static StemResult intoAside(
            Session session,
            StemRequest request,
            StemForecast forecast,
            StemPlans plans,
            Media media,
            Team team,
            Progress progress)
            throws WaterwheelException {
        Path aside = Leftovers.name(request.folder(), "rendering");
        try {
            Files.createDirectories(aside);
            List<StemResult.Written> written =
                    new StemFiles(session, request, forecast, aside, media, team).write(plans, progress.part(0, 0.7));
            Together together = Together.of(session, request.settings());
            StemProof proof =
                    StemProof.of(aside, written, request.format().encoding(), together, team, progress.part(0.7, 1));
            RenderedSet set = new RenderedSet(
                    aside,
                    request.folder(),
                    written.stream().map(StemResult.Written::path).toList());
            StemResult result =
                    new StemResult(session, request, forecast, written, proof, set.swept(), set.leftBehind());
            set.place(
                    ManifestJson.text(result, false),
                    Map.of(REPORT, StemReport.html(result), CHECKSUMS, Checksums.list(result)),
                    ManifestJson.text(result, true));
            progress.at(1);
            return result;
        } catch (IOException e) {
            throw new RenderException(
                    "The folder " + request.folder() + " cannot be written: " + e.getMessage() + ".",
                    "Choose another folder, or check its rights and the space on the disk.",
                    e);
        } finally {
            removeAside(aside);
        }
    }

    /**
     * Renders the mix alone to a file.
     *
     * @param tailSeconds how long the file goes on after the song's end
     * @param overwrite whether a file that was not rendered by Waterwheel may be replaced
     * @param incomplete whether to render although hardware is not captured as it is now
     * @return samples that had to be held at the format's limit; 0 in a clean render
     * @throws WaterwheelException if a source is missing, or the file cannot be written or may not be replaced
     */
    public static long mix(
            Session session,
            Path sessionFolder,
            Path file,
            RenderFormat format,
            double tailSeconds,
            boolean overwrite,
            boolean incomplete,
            Progress progress)
            throws WaterwheelException {
        RenderPlace place = new RenderPlace(session, sessionFolder);
        place.checkFiles(List.of(file), overwrite);
        Path folder = Objects.requireNonNull(file.toAbsolutePath().getParent(), "a file's folder");
        place.checkFolder(folder);
        RenderPlace.checkSpace(folder, bytes(frames(session, tailSeconds), format));
        Leftovers.sweep(folder);
        try (Media media = Media.open(session, sessionFolder);
                Team team = Team.ofAllProcessors()) {
            refuseMissing(session, media);
            if (!incomplete) {
                Captures.refuseOpen(session, PlanCompiler.compile(session), media, "The mix");
            }
            // What is frozen ends with the song; what rings on is computed.
            Set<ChannelId> frozen = tailSeconds == 0 ? Freezes.playable(session, media) : Set.of();
            long frames = frames(session, tailSeconds);
            Plan plan = PlanCompiler.compile(session, frozen).withLength(frames);
            SignalWriter.Target mix = new SignalWriter.Target(
                    plan.output(),
                    file,
                    FileTags.of(session.title(), "mix"),
                    new WrittenSignal.Shape(0, frames, 1, false));
            return SignalWriter.write(plan, List.of(mix), media, team, format, progress)
                    .getFirst();
        }
    }

    /** What stays is swept the next time; a render that failed has its own reason to tell. */
    private static void removeAside(Path aside) {
        try {
            Leftovers.deleteTree(aside);
        } catch (IOException e) {
            // Next time.
        }
    }
}
