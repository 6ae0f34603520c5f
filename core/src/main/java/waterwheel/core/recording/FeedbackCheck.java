package waterwheel.core.recording;

import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.outboard.LoopAsk;
import waterwheel.core.outboard.LoopTimer;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;

/**
 * Finds out, before one listens to an input, whether it would howl: how loud what the monitor plays comes in, and what the
 * faders make of it on the way back to the monitor. It howls where both together are above 0 dB.
 */
public final class FeedbackCheck {
    /** With less than that to spare it rings, and a turned head makes it howl. */
    private static final double LITTLE_DB = 6;

    private FeedbackCheck() {}

    /**
     * What was found.
     *
     * @param roomDb how loud the louder output of the monitor comes in, between 200 Hz and 2 kHz; empty where nothing does
     * @param faderDb from the input to the monitor, but for what processors do
     */
    public record Found(String input, OptionalDouble roomDb, double faderDb) {
        /** By how much the way round is below what howls, in dB; infinite where there is none. */
        public double spareDb() {
            return roomDb.isEmpty() ? Double.POSITIVE_INFINITY : -(roomDb.getAsDouble() + faderDb);
        }

        /** Whether one had better not listen. */
        public boolean warns() {
            return spareDb() < LITTLE_DB;
        }

        /** One sentence, and what to do. */
        public String sentence() {
            if (roomDb.isEmpty()) {
                return "Nothing that the monitor plays comes back by " + input + ": it can be listened to.";
            }
            String found = input + " hears the monitor at " + db(roomDb.getAsDouble());
            if (faderDb == Double.NEGATIVE_INFINITY) {
                return found + ", and nothing of it goes back there.";
            }
            double spare = spareDb();
            String way = found + ", and the faders make it " + db(faderDb);
            if (spare < 0) {
                return way
                        + ": listening would howl. Turn the loudspeakers off or use headphones, or turn the track down"
                        + " by "
                        + String.format(Locale.ROOT, "%.0f", Math.ceil(LITTLE_DB - spare)) + " dB.";
            }
            return way + ": " + String.format(Locale.ROOT, "%.1f", spare) + " dB from howling"
                    + (warns() ? ". That is little: use headphones, or turn the track down." : ".");
        }

        private static String db(double value) {
            return String.format(Locale.ROOT, "%+.1f dB", value).replace('-', '\u2212');
        }
    }

    /**
     * Plays quiet sweeps on the monitor and hears what comes in; some seven seconds a side in real time.
     *
     * @param track one that an input feeds
     * @param port closed; opened and closed here
     * @throws DeviceException if the port refuses
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static Found run(Session session, Track track, AudioPort port, int block, Progress progress)
            throws DeviceException {
        Feed.Input input = track.input()
                .orElseThrow(() -> new IllegalArgumentException(
                        "track: '" + track.name() + "' (expected: one that an input feeds)"));
        port.open(session.sampleRateHz(), block);
        try {
            int first = 2 * session.rack().monitorPair() <= port.outputs()
                    ? session.rack().monitorPair()
                    : 1;
            double loudest = Double.NEGATIVE_INFINITY;
            int ways = 2 * track.planes();
            for (int way = 0; way < ways; way++) {
                int in = input.port() + way / 2;
                int out = 2 * first - 1 + way % 2;
                if (in > port.inputs() || out > port.outputs()) {
                    continue;
                }
                LoopAnswer answer = new LoopTimer(port, session.sampleRateHz(), block)
                        .time(List.of(new LoopAsk(out, in)), progress.part((double) way / ways, (way + 1.0) / ways))
                        .getFirst();
                if (answer instanceof LoopAnswer.Timed timed) {
                    loudest = Math.max(loudest, timed.timing().gainDb());
                } else if (answer instanceof LoopAnswer.Clipped) {
                    loudest = Math.max(loudest, 0);
                }
            }
            String name = (track.planes() == 1 ? "Input " : "Inputs from ") + input.port();
            return new Found(
                    name,
                    Double.isFinite(loudest) ? OptionalDouble.of(loudest) : OptionalDouble.empty(),
                    toMonitorDb(session, track.id()));
        } finally {
            port.close();
        }
    }

    /** The gain of the loudest way from a track's input to the monitor while it is listened to, but for processors. */
    static double toMonitorDb(Session session, ChannelId track) {
        Plan plan = PlanCompiler.forPlayback(session, LiveLoops.NONE);
        double[] gains = new double[plan.signals().size()];
        for (int i = 0; i < gains.length; i++) {
            Signal signal = plan.signals().get(i);
            if (signal.id().channel().equals(track) && signal.id().point() == SignalId.Point.INCOMING) {
                gains[i] = 1;
            }
            for (Signal.Edge edge : signal.inputs()) {
                double before = gains[edge.from()];
                if (before > 0) {
                    gains[i] = Math.max(gains[i], edge.gain().loudest(new float[] {(float) before, (float) before}));
                }
            }
        }
        return Decibels.ofFactor(gains[plan.monitor()]);
    }
}
