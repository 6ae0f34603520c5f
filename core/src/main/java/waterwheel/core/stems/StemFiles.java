package waterwheel.core.stems;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.FileTags;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.engine.WrittenSignal;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.session.Session;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Writes a render's files into a folder aside, some dozens in one run of the session. What an earlier render in the same
 * folder has already, of the same signal in the same format, is taken from there.
 */
final class StemFiles {
    private static final String CUES = "cues";
    /** How many files are rendered in one run of the session: each stem has processors of its own in memory. */
    private static final int PASS = 64;

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
     * A file to be written: a signal of the plan.
     *
     * @param mono whether its one side is written alone
     * @param key what its bytes hang on
     */
    private record Wanted(
            StemResult.Role role, FileTags tags, String path, double gainDb, boolean mono, int signal, String key) {}

    /**
     * Writes them all.
     *
     * @throws AudioFileException if one cannot be written
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    List<StemResult.Written> write(StemPlans plans, Progress progress) throws AudioFileException, IOException {
        Files.createDirectories(aside.resolve(CUES));
        List<Wanted> all = wanted(plans);
        StemResult.@Nullable Written[] done = new StemResult.Written[all.size()];
        team.run(done.length, i -> done[i] = earlier(all.get(i)));
        List<Wanted> missing = IntStream.range(0, done.length)
                .filter(i -> done[i] == null)
                .mapToObj(all::get)
                .toList();
        List<Long> limited = new ArrayList<>();
        for (int at = 0; at < missing.size(); at += PASS) {
            int end = Math.min(at + PASS, missing.size());
            Progress pass = progress.part((double) at / missing.size(), (double) end / missing.size());
            List<SignalWriter.Target> targets =
                    missing.subList(at, end).stream().map(this::target).toList();
            limited.addAll(SignalWriter.write(plans.plan(), targets, media, team, request.format(), pass));
        }
        List<String> checksums = team.map(missing, one -> Checksums.of(aside.resolve(one.path())));
        for (int i = 0; i < missing.size(); i++) {
            Wanted one = missing.get(i);
            done[all.indexOf(one)] = result(one, limited.get(i), checksums.get(i), false);
        }
        return Stream.of(done)
                .map(one -> Objects.requireNonNull(one, "every file"))
                .toList();
    }

    private List<Wanted> wanted(StemPlans plans) {
        List<SignalKey> keys = SignalKey.of(plans.plan(), media);
        String path = StemResult.MIX + request.format().ending();
        List<Wanted> all = new ArrayList<>();
        all.add(wanted(StemResult.Role.MIX, tags(StemResult.MIX), path, forecast.gainDb(), false, plans.mix(), keys));
        for (StemForecast.Stem stem : written(forecast, request)) {
            all.add(wanted(
                    stem.inMix() ? StemResult.Role.STEM : StemResult.Role.CUE,
                    tags(stem.name()),
                    path(stem, request),
                    stem.gainDb(),
                    stem.mono(),
                    plans.stem(stem.id()),
                    keys));
        }
        return all;
    }

    private Wanted wanted(
            StemResult.Role role,
            FileTags tags,
            String path,
            double gainDb,
            boolean mono,
            int signal,
            List<SignalKey> keys) {
        String made = String.join(
                "\n",
                keys.get(signal).hex(),
                gainDb + " " + mono,
                String.valueOf(request.settings().frames(session)),
                request.format().label(),
                tags.toString());
        return new Wanted(
                role, tags, path, gainDb, mono, signal, SignalKey.ofText(made).hex());
    }

    private FileTags tags(String name) {
        StemSettings settings = request.settings();
        String note = request.policy().inWords()
                + settings.only().map(section -> ", " + section.name()).orElse("")
                + (settings.tap() == StemTap.BEFORE_MAIN ? ", before the main bus" : "");
        return new FileTags(session.title(), name, note, request.names().date(), settings.fromFrame());
    }

    /** What is there already, brought into the folder aside. */
    private StemResult.@Nullable Written earlier(Wanted wanted) {
        Optional<EarlierRender.Found> known = earlier.find(wanted.key());
        return known.isPresent() && known.get().copyTo(aside.resolve(wanted.path()))
                ? result(wanted, known.get().limitedSamples(), known.get().checksum(), true)
                : null;
    }

    private static StemResult.Written result(Wanted one, long limited, String checksum, boolean upToDate) {
        return new StemResult.Written(
                one.role(),
                one.tags().title(),
                one.path(),
                one.gainDb(),
                one.mono(),
                limited,
                one.key(),
                checksum,
                upToDate);
    }

    private SignalWriter.Target target(Wanted one) {
        StemSettings settings = request.settings();
        return new SignalWriter.Target(
                one.signal(),
                aside.resolve(one.path()),
                one.tags(),
                new WrittenSignal.Shape(
                        settings.fromFrame(), settings.frames(session), Decibels.toFactor(one.gainDb()), one.mono()));
    }
}
