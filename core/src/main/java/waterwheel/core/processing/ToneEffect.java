package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;
import waterwheel.core.units.Decibels;

/**
 * A test signal in place of what comes in: a sine, or noise of an RMS (AES17) of the level. Pink noise by P. Kellet's
 * filter of three poles, within 0.4 dB of -3 dB an octave from 40 Hz to 20 kHz at 48 kHz.
 */
final class ToneEffect implements Effect {
    private static final long SEED = 0x2545_F491_4F6C_DD1DL;
    /** White noise between -1 and +1 has a mean square of 1/3; the pink one of this, found by its filter's response. */
    private static final double PINK_MEAN_SQUARE = 0.184_89;

    private final int kind;
    private final double level;
    private final double step;
    private double phase;
    private long random = SEED;
    private double pink0;
    private double pink1;
    private double pink2;

    ToneEffect(Processor settings, int rate) {
        kind = settings.choice("signal");
        step = 2 * Math.PI * settings.value("frequencyHz") / rate;
        double amplitude = Decibels.toFactor(settings.value("levelDb"));
        level = switch (kind) {
            case 0 -> amplitude;
            case 1 -> amplitude * Math.sqrt(0.5 * 3);
            default -> amplitude * Math.sqrt(0.5 / PINK_MEAN_SQUARE);
        };
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int i = 0; i < frames; i++) {
            float value = (float) (level * next());
            for (float[] plane : signal) {
                plane[i] = value;
            }
        }
    }

    private double next() {
        if (kind == 0) {
            double value = Math.sin(phase);
            phase += step;
            phase -= phase > 2 * Math.PI ? 2 * Math.PI : 0;
            return value;
        }
        random = random * 6_364_136_223_846_793_005L + 1_442_695_040_888_963_407L;
        double white = (random >> 11) * 0x1p-52;
        if (kind == 1) {
            return white;
        }
        pink0 = 0.99765 * pink0 + white * 0.0990460 * 0.5;
        pink1 = 0.96300 * pink1 + white * 0.2965164 * 0.5;
        pink2 = 0.57000 * pink2 + white * 1.0526913 * 0.5;
        return (pink0 + pink1 + pink2 + white * 0.1848 * 0.5) * 0.5;
    }

    @Override
    public void reset() {
        phase = 0;
        random = SEED;
        pink0 = 0;
        pink1 = 0;
        pink2 = 0;
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof ToneEffect before) {
            phase = before.phase;
            random = before.random;
            pink0 = before.pink0;
            pink1 = before.pink1;
            pink2 = before.pink2;
        }
    }
}
