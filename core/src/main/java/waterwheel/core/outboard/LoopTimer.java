package waterwheel.core.outboard;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.work.Progress;

/**
 * Times ways through an interface, all at once: each output gives the same sweep, a part of its period later than the
 * one before, so that what comes back tells by its place in the period which output sent it. First it listens to silence,
 * then sends little to find how loud what comes back is, then as much as no input minds. In real time it takes some seven
 * seconds. One thread at a time.
 */
public final class LoopTimer {
    private static final int PERIOD = 1 << 16;
    private static final int PERIODS = 2;
    private static final double SETTLE_SECONDS = 0.25;
    private static final double SILENCE_SECONDS = 0.5;
    private static final double PROBE_DB = -40;
    /** The most that is sent and the most that should come back, peak. */
    private static final double MOST_DBFS = -12;
    /** What comes back must stand that far out of what comes back before it. */
    private static final double LEAST_CONFIDENCE_DB = 20;
    /** Nearer to full scale than this, an input clips. */
    private static final double CLIP = 0.999;

    private final AudioPort port;
    private final int rate;
    private final int block;
    private final float[][] in;
    private final float[][] out;
    private final Sweep sweep = new Sweep(PERIOD);

    /**
     * Makes a timer.
     *
     * @param port open for the rate and the block
     */
    public LoopTimer(AudioPort port, int sampleRateHz, int blockFrames) {
        this.port = port;
        rate = sampleRateHz;
        block = blockFrames;
        in = new float[port.inputs()][blockFrames];
        out = new float[port.outputs()][blockFrames];
    }

    /**
     * Times ways; each is heard by its own input alone.
     *
     * @return the answers in the order of the questions
     * @throws IllegalArgumentException if a port is not there
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public List<LoopAnswer> time(List<LoopAsk> asks, Progress progress) {
        for (LoopAsk ask : asks) {
            if (ask.sendPort() < 1
                    || ask.sendPort() > out.length
                    || ask.returnPort() < 1
                    || ask.returnPort() > in.length) {
                throw new IllegalArgumentException("ask: " + ask + " (expected: ports of an interface with " + in.length
                        + " inputs and " + out.length + " outputs)");
            }
        }
        int settle = (int) (SETTLE_SECONDS * rate);
        double[] levels = new double[asks.size()];
        run(asks, levels, settle, progress.part(0, 0.04));
        double[][] silence = run(asks, levels, (int) (SILENCE_SECONDS * rate), progress.part(0.04, 0.12));
        Arrays.fill(levels, Math.pow(10, PROBE_DB / 20));
        run(asks, levels, settle, progress.part(0.12, 0.16));
        // A whole period, because a part of it has only some of the frequencies.
        double[][] probe = run(asks, levels, PERIOD, progress.part(0.16, 0.37));
        for (int i = 0; i < levels.length; i++) {
            levels[i] = level(power(silence[i]), power(probe[i]));
        }
        run(asks, levels, PERIOD, progress.part(0.37, 0.58));
        double[][] heard = run(asks, levels, PERIODS * PERIOD, progress.part(0.58, 0.95));
        List<LoopAnswer> answers = new ArrayList<>();
        for (int i = 0; i < levels.length; i++) {
            answers.add(answer(asks, i, levels, silence[i], heard[i]));
        }
        progress.at(1);
        return answers;
    }

    /** Into how many parts the period is cut, one for each way: a power of two. */
    private static int parts(List<LoopAsk> asks) {
        return Integer.highestOneBit(2 * asks.size() - 1);
    }

    /** The level to send, so that neither what is sent nor what comes back of it is louder than it should be. */
    private double level(double silence, double probe) {
        // What cannot be told from the noise is at most as loud as a fourth of it.
        double back = Math.max(Math.max(probe - silence, 0.25 * silence), 1e-14);
        double gainDb = 10 * Math.log10(back / sweep.power()) - PROBE_DB;
        return Math.pow(10, Math.min(MOST_DBFS, MOST_DBFS - gainDb) / 20);
    }

    /** Mean square, as a sine's. */
    private static double power(double[] signal) {
        double sum = 0;
        for (double sample : signal) {
            sum += sample * sample;
        }
        return 2 * sum / signal.length;
    }

    /**
     * Sends and listens for a number of frames; sweeps go on from one run to the next where that is whole periods.
     *
     * @return by way what came in
     */
    private double[][] run(List<LoopAsk> asks, double[] levels, int frames, Progress progress) {
        double[][] heard = new double[asks.size()][frames];
        for (int at = 0; at < frames; ) {
            progress.check();
            int count = Math.min(block, frames - at);
            port.read(in, count);
            for (int a = 0; a < asks.size(); a++) {
                float[] from = in[asks.get(a).returnPort() - 1];
                for (int i = 0; i < count; i++) {
                    heard[a][at + i] = from[i];
                }
            }
            for (float[] silent : out) {
                Arrays.fill(silent, 0, count, 0);
            }
            for (int a = 0; a < asks.size(); a++) {
                float[] to = out[asks.get(a).sendPort() - 1];
                long begin = (long) a * (PERIOD / parts(asks));
                for (int i = 0; i < count; i++) {
                    to[i] = (float) levels[a] * sweep.at(at + i - begin);
                }
            }
            port.write(out, count);
            at += count;
            progress.at((double) at / frames);
        }
        return heard;
    }

    private LoopAnswer answer(List<LoopAsk> asks, int ask, double[] levels, double[] silence, double[] heard) {
        double most = 0;
        double[] period = new double[PERIOD];
        for (int i = 0; i < heard.length; i++) {
            most = Math.max(most, Math.abs(heard[i]));
            period[i % PERIOD] += heard[i] / PERIODS;
        }
        if (most > CLIP) {
            return new LoopAnswer.Clipped();
        }
        Arrival arrival = new Arrival(sweep.response(period));
        if (!(arrival.confidenceDb() >= LEAST_CONFIDENCE_DB)) {
            return new LoopAnswer.Nothing();
        }
        int part = PERIOD / parts(asks);
        double place = arrival.frame();
        int sender = (int) (place / part) % parts(asks);
        if (sender != ask) {
            return sender < asks.size()
                    ? new LoopAnswer.Crossed(asks.get(sender).sendPort())
                    : new LoopAnswer.Nothing();
        }
        Optional<Hum> hum = Hum.in(silence, rate);
        double toDb = -20 * Math.log10(levels[ask]);
        LoopTiming timing = new LoopTiming(
                place - (double) ask * part,
                arrival.value() < 0,
                arrival.gainDb(200, 2_000, rate) + toDb,
                10 * Math.log10(power(silence)),
                hum.map(Hum::hertz).map(OptionalDouble::of).orElse(OptionalDouble.empty()),
                hum.map(Hum::dbfs).orElse(Double.NEGATIVE_INFINITY),
                arrival.confidenceDb(),
                rate,
                block,
                port.name());
        return arrival.timed(timing, 1 / levels[ask], rate);
    }
}
