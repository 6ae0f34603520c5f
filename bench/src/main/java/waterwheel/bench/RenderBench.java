package waterwheel.bench;

import java.nio.file.Path;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/** Renders N stereo tracks of D seconds (32-bit float, 48 kHz) with trim, fader and pan to main, file included. */
final class RenderBench {
    private static final int WARM_UPS = 10;

    private RenderBench() {}

    static String run(int tracks, int seconds, Path folder) throws Exception {
        return NoiseSession.timeRender(
                "render " + tracks + " stereo tracks", session(tracks, seconds, folder), folder, seconds, WARM_UPS);
    }

    private static Session session(int tracks, int seconds, Path folder) throws Exception {
        NoiseSession made = new NoiseSession(folder, seconds, SampleEncoding.FLOAT_32);
        for (int t = 0; t < tracks; t++) {
            // Balance keeps the two sides apart, as a stereo pan to main does.
            made.addTrack(Strip.unity(Output.to(NoiseSession.MAIN))
                    .withTrimDb(-6 + t * 0.1)
                    .withFaderDb(-3 - t * 0.2)
                    .withPlacement(new Placement((t - tracks / 2.0) / tracks, 1, Placement.Mode.BALANCE)));
        }
        return made.whole();
    }
}
