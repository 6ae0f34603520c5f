package waterwheel.core.stems;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Writes a render's files into a folder aside. What an earlier render in the same folder has already, of the same signal
 * in the same format, is taken from there.
 */
final class StemFiles {
    private static final String CUES = "cues";
    /** What is kept of the whole for the stems takes at most this part of what the heap may. */
    private static final int KEPT_SHARE = 4;

    private final Session session;
    private final StemRequest request;
    private final StemForecast forecast;
    private final Path aside;
    private final EarlierRender earlier;
    private final Media media;
    private final Team team;

    StemFiles(Session session, StemRequest request, StemForecast forecast, Path aside, Media media, Team team) {
        this.session = session;
        this.request = request;
        this.forecast = forecast;
        this.aside = aside;
        this.media = media;
        this.team = team;
        earlier = EarlierRender.in(request.folder());
    }

    /** The stems that are written. */
    static List<StemForecast.Stem> written(StemForecast forecast, StemRequest request) {
        return forecast.written().stream()
                .filter(stem -> stem.inMix() || request.cues())
                .toList();
    }

    /** A stem's file in the render's folder. */
    static String path(StemForecast.Stem stem, StemRequest request) {
        return (stem.inMix() ? "" : CUES + "/")
                + stem.fileName()
                + request.format().ending();
    }

    /**
     * A file to be written: a signal of a plan.
     *
     * @param key what its bytes hang on
     */
    private record Wanted(
            StemResult.Role role, String name, String path, double gainDb, Plan plan, int signal, String key) {}

    /**
     * Writes them all.
     *
     * @throws AudioFileException if one cannot be written
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    List<StemResult.Written> write(Progress progress) throws AudioFileException, IOException {
        Files.createDirectories(aside.resolve(CUES));
        Plan plan = StemForecast.lasting(PlanCompiler.compile(session, forecast.gainDb()), tail());
        Wanted mix = wanted(
                StemResult.Role.MIX,
                StemResult.MIX,
                StemResult.MIX + request.format().ending(),
                forecast.gainDb(),
                plan,
                plan.output());
        List<Wanted> stems = stems();
        double share = 1.0 / (stems.size() + 2);
        List<StemResult.Written> done = new ArrayList<>();
        done.add(write(mix, SharedGains.none(media), team, progress.part(0, share)));
        boolean any = stems.stream().anyMatch(stem -> earlier.find(stem.key()).isEmpty());
        try (SharedGains gains = any ? gains(progress.part(share, 2 * share)) : SharedGains.none(media)) {
            done.addAll(write(stems, gains, progress.part(2 * share, 1)));
        }
        return done;
    }

    private double tail() {
        return request.settings().tailSeconds();
    }

    private List<Wanted> stems() {
        Map<ChannelId, StemDivision.Group> groups = request.settings().division().of(session).stream()
                .collect(Collectors.toMap(group -> group.channel().id(), group -> group));
        return written(forecast, request).stream()
                .map(stem -> {
                    StemDivision.Group group = Objects.requireNonNull(groups.get(stem.channel()));
                    Plan plan = StemForecast.plan(
                            session, group.share(request.settings().treatment()), stem.gainDb(), tail(), media);
                    return wanted(
                            stem.inMix() ? StemResult.Role.STEM : StemResult.Role.CUE,
                            stem.name(),
                            path(stem, request),
                            stem.gainDb(),
                            plan,
                            plan.monitor());
                })
                .toList();
    }

    private SharedGains gains(Progress progress) {
        long most = Runtime.getRuntime().maxMemory() / KEPT_SHARE;
        return request.settings().treatment().sharesGain()
                ? SharedGains.of(session, tail(), media, team, most, progress)
                : SharedGains.none(media);
    }

    private List<StemResult.Written> write(List<Wanted> stems, SharedGains gains, Progress progress)
            throws AudioFileException {
        // A stem has too little to do for several threads, so each thread renders stems of its own.
        JointProgress joint = new JointProgress(progress, stems.size());
        StemResult.Written[] done = new StemResult.Written[stems.size()];
        AtomicReference<@Nullable AudioFileException> failure = new AtomicReference<>();
        team.run(stems.size(), i -> {
            try {
                done[i] = write(stems.get(i), gains, Team.alone(), joint.part(i));
            } catch (AudioFileException e) {
                failure.set(e);
            }
        });
        AudioFileException thrown = failure.get();
        if (thrown != null) {
            throw thrown;
        }
        return List.of(done);
    }

    private StemResult.Written write(Wanted wanted, SharedGains gains, Team workers, Progress progress)
            throws AudioFileException {
        Path file = aside.resolve(wanted.path());
        Optional<EarlierRender.Found> known = earlier.find(wanted.key());
        if (known.isPresent() && known.get().copyTo(file)) {
            progress.at(1);
            return new StemResult.Written(
                    wanted.role(),
                    wanted.name(),
                    wanted.path(),
                    wanted.gainDb(),
                    known.get().limitedSamples(),
                    wanted.key(),
                    known.get().checksum(),
                    true);
        }
        long limited = SignalWriter.write(
                gains.in(wanted.plan()),
                wanted.signal(),
                media,
                workers,
                file,
                request.format(),
                StemRender.about(session, wanted.name()),
                progress);
        return new StemResult.Written(
                wanted.role(),
                wanted.name(),
                wanted.path(),
                wanted.gainDb(),
                limited,
                wanted.key(),
                checksum(file),
                false);
    }

    private static String checksum(Path file) throws AudioFileException {
        try {
            return Checksums.of(file);
        } catch (IOException e) {
            throw new AudioFileException(
                    file, "cannot be read back: " + e.getMessage() + ".", "Check the disk and its rights.", e);
        }
    }

    private Wanted wanted(StemResult.Role role, String name, String path, double gainDb, Plan plan, int signal) {
        String text = String.join(
                "\n",
                SignalKey.of(plan, media).get(signal).hex(),
                String.valueOf(plan.lengthFrames()),
                request.format().label(),
                session.title(),
                name);
        return new Wanted(
                role, name, path, gainDb, plan, signal, SignalKey.ofText(text).hex());
    }
}
