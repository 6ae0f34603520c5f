package waterwheel.core.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;

/**
 * Writes the demo session: the Weir House Band, "Sluicegate Reel", two minutes at 48 kHz. It arrives as such sessions
 * do: one track flattened when it was recorded, one float file far over full scale, a whistle too quiet at a noisy
 * input, a stereo source pushed aside by a balance control, chorus voices at unlike levels, and buses that pile up over
 * full scale. The same bytes every time.
 */
public final class DemoSession {
    /** The session's title. */
    public static final String TITLE = "Weir House Band, Sluicegate Reel";

    private static final int RATE = 48_000;
    /** What its files were written at. */
    private static final Instant WRITTEN = Instant.parse("2026-01-01T00:00:00Z");

    private static final int BASS_MIC_LATE_SAMPLES = 310;

    private final Path folder;
    private final Progress progress;
    private final Band band = new Band(RATE);
    private final Executor players;
    private final Map<String, CompletableFuture<float[][]>> played = new LinkedHashMap<>();
    private final List<CompletableFuture<Recorded>> recording = new ArrayList<>();

    private DemoSession(Path folder, Progress progress, Executor players) {
        this.folder = folder;
        this.progress = progress;
        this.players = players;
    }

    /** A track whose file is written. */
    private record Recorded(AudioSource source, Track track) {}

    /**
     * Writes the demo session unless the folder holds a session already.
     *
     * @throws WaterwheelException if the disk refuses
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static void writeIfMissing(Path folder, Progress progress) throws WaterwheelException {
        if (!SessionFolder.isSession(folder)) {
            try (ExecutorService players =
                    Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors())) {
                new DemoSession(folder, progress, players).write();
            }
        }
    }

    private void write() throws WaterwheelException {
        try {
            Files.createDirectories(folder.resolve(SessionFolder.AUDIO));
        } catch (IOException e) {
            throw new SessionFileException(
                    "The demo session cannot be written to " + folder + ": " + e.getMessage() + ".",
                    "Name another folder.",
                    e);
        }
        play();
        ChannelId percussion = new ChannelId("percussion");
        ChannelId strings = new ChannelId("strings");
        ChannelId reeds = new ChannelId("reeds");
        ChannelId voices = new ChannelId("voices");
        ChannelId main = new ChannelId("main");
        Track.Kind struck = Track.Kind.PERCUSSIVE;
        Track.Kind sung = Track.Kind.SUSTAINED;

        track("Bodhrán close", struck, percussion, -3, SampleEncoding.PCM_24, 0);
        track("Bodhrán room", struck, percussion, -11, SampleEncoding.PCM_24, 0.2);
        // Recorded too hot: what was over full scale is gone.
        track("Stomp board", struck, percussion, 4, SampleEncoding.PCM_24, 0);
        track("Double bass DI", sung, strings, -2, SampleEncoding.PCM_24, 0);
        track("Double bass mic", sung, strings, -7, SampleEncoding.PCM_24, 0);
        track("Harmonium", sung, reeds, -4, SampleEncoding.PCM_24, 0);
        track("Fiddle 1", sung, strings, -3, SampleEncoding.PCM_24, -0.45);
        // Over full scale in a float file: turned down, nothing is lost.
        track("Fiddle 2", sung, strings, 7, SampleEncoding.FLOAT_32, 0.45);
        track("Melodeon left", sung, reeds, -4, SampleEncoding.PCM_24, -0.6);
        track("Melodeon right", sung, reeds, -2, SampleEncoding.PCM_24, 0.6);
        track("Hammered dulcimer", sung, strings, -3, SampleEncoding.PCM_24, 0);
        track("Low whistle", sung, reeds, -31, SampleEncoding.PCM_24, 0.25);
        track("Lead voice", sung, voices, -1, SampleEncoding.PCM_24, 0);
        track("Chorus voice 1", sung, voices, -4, SampleEncoding.PCM_24, -0.5);
        track("Chorus voice 2", sung, voices, -17, SampleEncoding.PCM_24, -0.2);
        track("Chorus voice 3", sung, voices, -8, SampleEncoding.PCM_24, 0.2);
        track("Chorus voice 4", sung, voices, -24, SampleEncoding.PCM_16, 0.5);
        track("Room pair", sung, main, -8, SampleEncoding.PCM_24, 0);
        track("Click", Track.Kind.CUE, main, -12, SampleEncoding.PCM_16, 0);
        track("Count-in voice", Track.Kind.CUE, main, -8, SampleEncoding.PCM_16, 0);
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> channels = new ArrayList<>();
        for (CompletableFuture<Recorded> one : recording) {
            Recorded recorded = finished(one);
            sources.add(recorded.source());
            channels.add(recorded.track());
            progress.at(channels.size() / 27.0);
        }
        for (ChannelId bus : List.of(percussion, strings, reeds, voices)) {
            String id = bus.value();
            String name = Character.toUpperCase(id.charAt(0)) + id.substring(1);
            channels.add(new Bus(bus, name, Strip.unity(Output.to(main))));
        }
        channels.add(new Bus(main, "Main", Strip.unity(new Output.Nowhere())));

        Session session = new Session(TITLE, RATE, PanLaw.MINUS_3, -18, sources, channels, main, sections());
        session = DemoFlow.added(asItArrived(session));
        session = DemoOutboard.added(session, folder, progress.part(0.8, 0.94));
        session = DemoInstruments.added(session, folder, progress.part(0.94, 0.98));
        SessionFolder.save(settled(session), folder);
        progress.at(1);
    }

    /** Settings that somebody left behind. */
    private static Session asItArrived(Session session) {
        Placement aside = new Placement(0.6, 1, Placement.Mode.BALANCE);
        return session.withStrip(id("Hammered dulcimer"), strip -> strip.withPlacement(aside))
                .withStrip(id("Low whistle"), strip -> strip.withFaderDb(6))
                .withStrip(id("Room pair"), strip -> strip.withFaderDb(-6))
                .withStrip(id("Fiddle 2"), strip -> strip.withFaderDb(-38));
    }

    private static List<Section> sections() {
        List<Section> sections = new ArrayList<>();
        int[] bars = {
            Tune.COUNT_IN,
            Tune.INTRO,
            Tune.FIRST_TUNE,
            Tune.VERSE,
            Tune.CHORUS,
            Tune.SECOND_TUNE,
            Tune.ENDING,
            Tune.BARS
        };
        String[] names = {"Count-in", "Intro", "First tune", "Verse", "Chorus", "Second tune", "Ending"};
        for (int i = 0; i < names.length; i++) {
            sections.add(new Section(names[i], frame(bars[i]), frame(bars[i + 1])));
        }
        return sections;
    }

    static long frame(int bar) {
        return Math.round(bar * Tune.BAR * Tune.QUAVER_SECONDS * RATE);
    }

    /** Starts every player; the ones that listen to others wait for them. */
    private void play() {
        start("Bodhrán close", () -> mono(band.bodhran()));
        start("Stomp board", () -> mono(band.stomp()));
        start("Double bass DI", () -> mono(band.bass()));
        start("Harmonium", band::harmonium);
        start("Fiddle 1", () -> mono(band.fiddle(false)));
        start("Fiddle 2", () -> mono(band.fiddle(true)));
        start("Melodeon", band::melodeon);
        start("Hammered dulcimer", band::dulcimer);
        start("Low whistle", () -> mono(band.whistle()));
        start("Lead voice", () -> mono(band.leadVoice()));
        for (int i = 0; i < 4; i++) {
            int number = i;
            start("Chorus voice " + (i + 1), () -> mono(band.chorusVoice(number)));
        }
        start("Click", () -> mono(band.click()));
        start("Count-in voice", () -> mono(band.countIn()));
        follow("Bodhrán room", "Bodhrán close", close -> mono(band.bodhranRoom(close[0])));
        follow("Double bass mic", "Double bass DI", di -> mono(band.bassMic(di[0], BASS_MIC_LATE_SAMPLES)));
        follow("Melodeon left", "Melodeon", both -> mono(both[0]));
        follow("Melodeon right", "Melodeon", both -> mono(both[1]));
        List<String> heard = List.of(
                "Fiddle 1",
                "Harmonium",
                "Bodhrán close",
                "Lead voice",
                "Hammered dulcimer",
                "Chorus voice 1",
                "Melodeon right");
        CompletableFuture<Void> all =
                CompletableFuture.allOf(heard.stream().map(this::playing).toArray(CompletableFuture[]::new));
        played.put(
                "Room pair",
                all.thenApplyAsync(
                        done -> band.roomPair(heard.stream()
                                .map(name -> playing(name).join()[0])
                                .toList()),
                        players));
    }

    private CompletableFuture<float[][]> playing(String name) {
        CompletableFuture<float[][]> found = played.get(name);
        if (found == null) {
            throw new IllegalArgumentException("name: " + name + " (expected: a player)");
        }
        return found;
    }

    private void start(String name, Supplier<float[][]> player) {
        played.put(name, CompletableFuture.supplyAsync(player, players));
    }

    private void follow(String name, String first, UnaryOperator<float[][]> player) {
        played.put(name, playing(first).thenApplyAsync(player, players));
    }

    private static float[][] mono(float[] plane) {
        return new float[][] {plane};
    }

    /** Has one track's file written with its peak at a level, as soon as it is played. */
    private void track(
            String name, Track.Kind kind, ChannelId output, double peakDbfs, SampleEncoding encoding, double position) {
        recording.add(playing(name)
                .thenApplyAsync(
                        planes -> record(name, kind, output, scaledTo(peakDbfs, planes), encoding, position), players));
    }

    private Recorded record(
            String name,
            Track.Kind kind,
            ChannelId output,
            float[][] planes,
            SampleEncoding encoding,
            double position) {
        progress.check();
        int frames = planes[0].length;
        String file = fileName(name);
        Path path = folder.resolve(SessionFolder.AUDIO).resolve(file);
        try (WavWriter writer = WavWriter.create(path, planes.length, RATE, encoding, frames)) {
            writer.write(planes, 0, frames);
            writer.finish();
        } catch (WaterwheelException e) {
            throw new CompletionException(e);
        }
        SourceId source = new SourceId(id(name).value());
        Strip strip = Strip.unity(Output.to(output)).withPlacement(Placement.CENTRE.withPosition(position));
        return new Recorded(
                source(source, path, frames, planes.length, encoding),
                new Track(id(name), name, kind, planes.length, List.of(new Clip(source, 0, 0, frames, 0)), strip)
                        .withColour(colour(output)));
    }

    /** With what the file holds. */
    private static AudioSource source(SourceId id, Path path, int frames, int channels, SampleEncoding encoding) {
        String name = SessionFolder.AUDIO + "/" + path.getFileName();
        try {
            return settled(
                    new AudioSource(id, name, frames, channels, RATE, encoding.label())
                            .withContent(ContentHash.of(path), 0),
                    path);
        } catch (IOException e) {
            throw new CompletionException(AudioFileException.cannotWrite(path, e));
        }
    }

    /** A source whose file counts as written at a time that is the same on every machine. */
    private static AudioSource settled(AudioSource source, Path path) throws IOException {
        Files.setLastModifiedTime(path, FileTime.from(WRITTEN));
        return source.withContent(source.contentHash(), WRITTEN.toEpochMilli());
    }

    /** Captures were written just now; they count as written with the rest. */
    private Session settled(Session session) throws WaterwheelException {
        List<AudioSource> sources = new ArrayList<>();
        for (AudioSource source : session.sources()) {
            Path path = folder.resolve(source.path());
            try {
                sources.add(source.modifiedMillis() == WRITTEN.toEpochMilli() ? source : settled(source, path));
            } catch (IOException e) {
                throw AudioFileException.cannotWrite(path, e);
            }
        }
        return session.withSources(sources);
    }

    private static Track.Colour colour(ChannelId bus) {
        return switch (bus.value()) {
            case "percussion" -> Track.Colour.CLAY;
            case "strings" -> Track.Colour.FERN;
            case "reeds" -> Track.Colour.SAND;
            case "voices" -> Track.Colour.HEATHER;
            default -> Track.Colour.NONE;
        };
    }

    private static Recorded finished(CompletableFuture<Recorded> recording) throws WaterwheelException {
        try {
            return recording.join();
        } catch (CompletionException e) {
            switch (e.getCause()) {
                case WaterwheelException refused -> throw refused;
                case RuntimeException thrown -> throw thrown;
                case null, default -> throw e;
            }
        }
    }

    /** A copy, because other players may still be listening to the original. */
    static float[][] scaledTo(double peakDbfs, float[][] planes) {
        float most = 0;
        for (float[] plane : planes) {
            for (float sample : plane) {
                most = Math.max(most, Math.abs(sample));
            }
        }
        double factor = StrictMath.pow(10, peakDbfs / 20) / most;
        float[][] scaled = new float[planes.length][planes[0].length];
        for (int p = 0; p < planes.length; p++) {
            for (int i = 0; i < planes[p].length; i++) {
                scaled[p][i] = (float) (factor * planes[p][i]);
            }
        }
        return scaled;
    }

    private static ChannelId id(String name) {
        return new ChannelId(fileName(name).replace(".wav", ""));
    }

    private static String fileName(String name) {
        return name.toLowerCase(Locale.ROOT).replace('á', 'a').replace(' ', '-') + ".wav";
    }
}
