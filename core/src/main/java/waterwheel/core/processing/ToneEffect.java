package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

/**
 * A test signal in place of what comes in: a sine, or noise of an RMS (AES17) of the level, another one on each side.
 * Every sample follows from its frame of the song alone, so that all test signals are in time with each other. White
 * noise is a frame's number mixed until nothing of it can be told (G. Steele, D. Lea, C. Flood, Fast splittable
 * pseudorandom number generators, 2014); pink noise is that through a {@link PinkFilter}.
 */
final class ToneEffect implements Effect {
    private static final long SEED = 0x2545_F491_4F6C_DD1DL;
    private static final long STEP = 0x9E37_79B9_7F4A_7C15L;
    /** After so many frames the pink filter knows nothing of what came before, below -160 dB. */
    private static final int SETTLING = 8_192;

    private static final int SIGNAL = TestTone.KIND.index("signal");
    private static final int FREQUENCY = TestTone.KIND.index("frequencyHz");
    private static final int LEVEL = TestTone.KIND.index("levelDb");

    private final int kind;
    private final Glide level;
    private final double cyclesPerFrame;
    private final PinkFilter[] pink = {new PinkFilter(), new PinkFilter()};
    private long frame;

    ToneEffect(double[] settings, int rate) {
        kind = (int) Math.round(settings[SIGNAL]);
        cyclesPerFrame = settings[FREQUENCY] / rate;
        level = new Glide(amplitude(settings));
    }

    private double amplitude(double[] settings) {
        double amplitude = Decibels.toFactor(settings[LEVEL]);
        return switch (kind) {
            case 0 -> amplitude;
            case 1 -> amplitude * Math.sqrt(0.5 * 3);
            default -> amplitude * Math.sqrt(0.5 / PinkFilter.MEAN_SQUARE);
        };
    }

    @Override
    public void move(double[] values, int frames) {
        level.to(amplitude(values), frames);
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int i = 0; i < frames; i++) {
            double gain = level.next();
            for (int p = 0; p < signal.length; p++) {
                signal[p][i] = (float) (gain * value(p, frame + i));
            }
        }
        frame += frames;
    }

    private double value(int plane, long at) {
        return switch (kind) {
            case 0 -> {
                double cycles = cyclesPerFrame * at;
                yield Math.sin(2 * Math.PI * (cycles - Math.floor(cycles)));
            }
            case 1 -> white(plane, at);
            default -> pink[plane].next(white(plane, at));
        };
    }

    /** Uniform from -1 to +1. */
    private static double white(int plane, long at) {
        long mixed = (2 * at + plane) * STEP + SEED;
        mixed = (mixed ^ (mixed >>> 30)) * 0xBF58_476D_1CE4_E5B9L;
        mixed = (mixed ^ (mixed >>> 27)) * 0x94D0_49BB_1331_11EBL;
        mixed ^= mixed >>> 31;
        return (mixed >> 11) * 0x1p-52;
    }

    /** The filter's memory. */
    @Override
    public void seek(long songFrame) {
        if (songFrame == frame) {
            return;
        }
        frame = songFrame;
        for (int p = 0; kind == 2 && p < pink.length; p++) {
            pink[p].clear();
            for (long at = Math.max(0, songFrame - SETTLING); at < songFrame; at++) {
                pink[p].next(white(p, at));
            }
        }
    }

    @Override
    public void reset() {
        level.arrive();
        frame = 0;
        for (PinkFilter one : pink) {
            one.clear();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof ToneEffect before) {
            frame = before.frame;
            for (int p = 0; p < pink.length; p++) {
                pink[p].adopt(before.pink[p]);
            }
        }
    }
}
