package waterwheel.core.processing;

import static waterwheel.core.inserts.Parameter.range;

import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;

/**
 * A transient shaper: turns the beginnings of sounds and what rings after them up or down, whatever their level. Two
 * envelope followers of one attack and release each (Giannoulis, Massberg, Reiss, Digital Dynamic Range Compressor
 * Design, J. Audio Eng. Soc. 60, 2012, section 2.3) that differ in how fast they rise lie apart while a sound begins; two
 * that differ in how fast they fall, while it dies away. The gain in dB is the setting by how far they lie apart, all of it
 * from 12 dB on.
 */
public final class TransientShaper implements Descriptor {
    public static final ProcessorKind KIND = ProcessorKind.of(
            "transient",
            "Transient shaper",
            range("attackDb", "Attack", "dB", -24, 24, 6),
            range("sustainDb", "Sustain", "dB", -24, 24, 0),
            range("attackMs", "Attack length", "ms", 5, 100, 20),
            range("sustainMs", "Sustain length", "ms", 50, 1_000, 300));

    private static final double LASTS = 0.2;
    private static final double DECAYS = 0.3;
    private static final double SHOWN = 0.6;
    private static final double STEP = 0.001;

    @Override
    public ProcessorKind kind() {
        return KIND;
    }

    @Override
    public Effect start(Processor settings, Site site) {
        return new TransientEffect(settings.array(), site);
    }

    @Override
    public boolean answersToLevel() {
        return true;
    }

    @Override
    public boolean sharesGain() {
        return true;
    }

    /** Over a sound that is at once there, lasts 200 ms, and then falls by 60 dB in 300 ms. */
    @Override
    public Picture picture(Processor settings, int sampleRateHz) {
        double[] gains = TransientEffect.overBurst(settings.array(), LASTS, DECAYS, SHOWN, STEP);
        double edge =
                Math.max(6, Math.max(Math.abs(settings.value("attackDb")), Math.abs(settings.value("sustainDb"))));
        return new Picture.OverBurst(
                SHOWN, LASTS, edge, at -> gains[Math.clamp((int) (at / STEP), 0, gains.length - 1)]);
    }
}
