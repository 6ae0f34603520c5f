package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.units.Decibels;

/**
 * A test signal in place of what comes in: a sine, or noise of an RMS (AES17) of the level, another one on each side.
 * Every sample follows from its frame of the song alone, so that all test signals are in time with each other. White
 * noise is a frame's number mixed until nothing of it can be told (G. Steele, D. Lea, C. Flood, Fast splittable
 * pseudorandom number generators, 2014); pink noise is that through P. Kellet's filter of three poles, within 0.4 dB of
 * -3 dB an octave from 40 Hz to 20 kHz at 48 kHz.
 */
final class ToneEffect implements Effect {
    private static final long SEED = 0x2545_F491_4F6C_DD1DL;
    private static final long STEP = 0x9E37_79B9_7F4A_7C15L;
    /** White noise between -1 and +1 has a mean square of 1/3; the pink one of this, found by its filter's response. */
    private static final double PINK_MEAN_SQUARE = 0.184_89;
    /** After so many frames the pink filter knows nothing of what came before, below -160 dB. */
    private static final int SETTLING = 8_192;

    private static final int SIGNAL = TestTone.KIND.index("signal");
    private static final int FREQUENCY = TestTone.KIND.index("frequencyHz");
    private static final int LEVEL = TestTone.KIND.index("levelDb");

    private final int kind;
    private final Glide level;
    private final double cyclesPerFrame;
    private final Pink[] pink = {new Pink(), new Pink()};
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
            default -> amplitude * Math.sqrt(0.5 / PINK_MEAN_SQUARE);
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
    private static final class Pink {
        private double slow;
        private double middle;
        private double fast;

        double next(double white) {
            slow = 0.99765 * slow + white * 0.0990460 * 0.5;
            middle = 0.96300 * middle + white * 0.2965164 * 0.5;
            fast = 0.57000 * fast + white * 1.0526913 * 0.5;
            return (slow + middle + fast + white * 0.1848 * 0.5) * 0.5;
        }

        void clear() {
            slow = 0;
            middle = 0;
            fast = 0;
        }
    }

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
        for (Pink one : pink) {
            one.clear();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof ToneEffect before) {
            frame = before.frame;
            for (int p = 0; p < pink.length; p++) {
                pink[p].slow = before.pink[p].slow;
                pink[p].middle = before.pink[p].middle;
                pink[p].fast = before.pink[p].fast;
            }
        }
    }
}
