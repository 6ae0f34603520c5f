package waterwheel.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.Stream;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.RecordedFile;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.stems.StemRender;
import waterwheel.core.work.Progress;

/** A session of stereo tracks of noise, 48 kHz, being made in a folder. */
final class NoiseSession {
    static final ChannelId MAIN = new ChannelId("main");
    private static final int RATE = 48_000;

    private final Path folder;
    private final int seconds;
    private final SampleEncoding encoding;
    private final List<AudioSource> sources = new ArrayList<>();
    private final List<Channel> channels = new ArrayList<>();

    NoiseSession(Path folder, int seconds, SampleEncoding encoding) {
        this.folder = folder;
        this.seconds = seconds;
        this.encoding = encoding;
    }

    /** Adds a track with a recording of its own. */
    void addTrack(Strip strip) throws AudioFileException, IOException {
        int number = sources.size();
        Noise.write(file(number), seconds, RATE, number, encoding);
        addTrack(number, strip, ContentHash.of(file(number)));
    }

    /** Adds a track with the recording of an earlier one under another name, to spare the disk. */
    void addTrackLike(int earlier, Strip strip) throws IOException {
        int number = sources.size();
        Files.createLink(file(number), file(earlier));
        addTrack(number, strip, sources.get(earlier).contentHash());
    }

    /** With what its file holds, as files are taken in: nobody needs to read them whole again to know that. */
    private void addTrack(int number, Strip strip, String hash) throws IOException {
        String name = "track" + number;
        long frames = (long) seconds * RATE;
        SourceId source = new SourceId(name);
        sources.add(RecordedFile.source(source, ".", file(number), frames, 2, RATE, encoding, hash));
        channels.add(new Track(
                new ChannelId(name), name, Track.Kind.SUSTAINED, 2, List.of(new Clip(source, 0, 0, frames, 0)), strip));
    }

    /** Adds a stereo impulse response: noise that falls by 60 dB until its end. */
    SourceId addResponse(int seconds) throws AudioFileException {
        SourceId source = new SourceId("response");
        int frames = seconds * RATE;
        SplittableRandom random = new SplittableRandom(1);
        float[][] samples = new float[2][frames];
        for (int i = 0; i < frames; i++) {
            double level = Math.pow(10, -3.0 * i / frames);
            samples[0][i] = (float) (level * (random.nextDouble() * 2 - 1));
            samples[1][i] = (float) (level * (random.nextDouble() * 2 - 1));
        }
        Path file = folder.resolve("response.wav");
        try (WavWriter writer = WavWriter.create(file, 2, RATE, encoding, frames)) {
            writer.write(samples, 0, frames);
            writer.finish();
        }
        sources.add(RecordedFile.source(source, ".", file, frames, 2, RATE, encoding));
        return source;
    }

    private Path file(int number) {
        return folder.resolve("track" + number + ".wav");
    }

    void add(Bus bus) {
        channels.add(bus);
    }

    /** The session, with its main bus at the end. */
    Session whole() {
        channels.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        return new Session("Bench", RATE, PanLaw.MINUS_3, -18, sources, channels, MAIN, List.of());
    }

    /** Times the render of a session's mix in a folder, and deletes that. */
    static String timeRender(String name, Session session, Path folder, int seconds, int warmUps) throws Exception {
        String line = Measured.run(name, seconds, warmUps, mix(session, folder));
        delete(folder);
        return line;
    }

    /** The render of a session's mix in a folder. */
    static Measured.Work mix(Session session, Path folder) throws IOException {
        Path mix = Files.createDirectories(folder.resolve("renders")).resolve("mix.wav");
        return () -> StemRender.mix(session, folder, mix, RenderFormat.WAV_32F, 0, false, false, Progress.NONE);
    }

    /** Deletes a folder with all that is in it. */
    static void delete(Path folder) throws IOException {
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(file);
            }
        }
    }
}
