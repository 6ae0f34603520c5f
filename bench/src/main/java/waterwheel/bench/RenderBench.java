package waterwheel.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.session.AudioSource;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.SourceId;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.stems.StemRender;
import waterwheel.core.work.Progress;

/** Renders N stereo tracks of D seconds (32-bit float, 48 kHz) with trim, fader and pan to main, file included. */
final class RenderBench {
    private static final int RATE = 48_000;
    private static final int WARM_UPS = 10;

    private RenderBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        Session session = session(tracks, seconds, folder);
        Path mix = folder.resolve("mix.wav");
        String line = Measured.run(
                "render " + tracks + " stereo tracks",
                seconds,
                WARM_UPS,
                () -> StemRender.mix(session, folder, mix, RenderFormat.WAV_32F, Progress.NONE));
        for (int t = 0; t < tracks; t++) {
            Files.delete(folder.resolve("track" + t + ".wav"));
        }
        Files.delete(mix);
        Files.delete(folder);
        return line;
    }

    private static Session session(int tracks, int seconds, Path folder) throws Exception {
        ChannelId main = new ChannelId("main");
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> channels = new ArrayList<>();
        long frames = (long) seconds * RATE;
        for (int t = 0; t < tracks; t++) {
            String name = "track" + t;
            Noise.write(folder.resolve(name + ".wav"), seconds, RATE, t);
            SourceId source = new SourceId(name);
            sources.add(new AudioSource(source, name + ".wav", frames, 2, RATE, "float 32-bit"));
            // Balance keeps the two sides apart, as a stereo pan to main does.
            Strip strip = Strip.unity(Output.to(main))
                    .withTrimDb(-6 + t * 0.1)
                    .withFaderDb(-3 - t * 0.2)
                    .withPlacement(new Placement((t - tracks / 2.0) / tracks, 1, Placement.Mode.BALANCE));
            channels.add(new Track(
                    new ChannelId(name),
                    name,
                    Track.Kind.SUSTAINED,
                    2,
                    List.of(new Clip(source, 0, 0, frames, 0)),
                    strip));
        }
        channels.add(new Bus(main, "Main", Strip.unity(new Output.Nowhere())));
        return new Session("Bench", RATE, PanLaw.MINUS_3, -18, sources, channels, main, List.of());
    }
}
