package waterwheel.core.instruments;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Makes the sound of a synthesised instrument's key, once; the last ones are kept. */
final class SynthSound {
    /** Harder strokes are brighter; so many steps of it are told apart. */
    static final int LAYERS = 4;

    private static final int KEPT = 256;
    private static final int MOST_PARTIALS = 40;
    private static final double MOST_SECONDS = 8;
    private static final double NOISE_SECONDS = 0.006;
    private static final double LEVEL = 0.35;

    private static final Map<Asked, Sample> SOUNDS = new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Asked, Sample> eldest) {
            return size() > KEPT;
        }
    };

    private SynthSound() {}

    /** What tells sounds from each other. */
    private record Asked(Instrument.Synth synth, int key, int layer, int rate) {}

    /** @param layer 0 soft to {@link #LAYERS} - 1 */
    static Sample of(Instrument.Synth synth, int key, int layer, int rate) {
        Asked asked = new Asked(synth, key, layer, rate);
        synchronized (SOUNDS) {
            return SOUNDS.computeIfAbsent(asked, SynthSound::make);
        }
    }

    private static Sample make(Asked asked) {
        Instrument.Synth synth = asked.synth;
        int rate = asked.rate;
        double hertz = 440 * StrictMath.pow(2, (asked.key - 69) / 12.0);
        double decay = Math.max(0.05, synth.decaySeconds() * StrictMath.pow(0.7, (asked.key - 60) / 12.0));
        int frames = (int) Math.max(1, Math.min(1.3 * decay, MOST_SECONDS) * rate);
        double[] out = new double[frames];
        double slope = 2.2 - 1.5 * synth.brightness() - 0.25 * asked.layer;
        double most = 0;
        List<double[]> partials = new ArrayList<>();
        for (int n = 1; n <= MOST_PARTIALS; n++) {
            double at = hertz * n * StrictMath.sqrt((1 + synth.stiffness() * n * n) / (1 + synth.stiffness()));
            if (at > 0.45 * rate) {
                break;
            }
            double amplitude = StrictMath.sin(n * StrictMath.PI * synth.position()) / StrictMath.pow(n, slope);
            double fall = decay / (1 + synth.damping() * (n - 1));
            partials.add(new double[] {at, amplitude, fall});
            most += Math.abs(amplitude);
        }
        for (double[] partial : partials) {
            add(out, rate, partial[0], LEVEL * partial[1] / Math.max(most, 1e-9), partial[2]);
        }
        strike(out, rate, LEVEL * synth.strike() * (0.4 + 0.2 * asked.layer));
        float[] plane = new float[frames];
        int fade = Math.min(frames, rate / 50);
        for (int i = 0; i < frames; i++) {
            plane[i] = (float) (out[i] * Math.min(1, (frames - i) / (double) fade));
        }
        return new Sample(new float[][] {plane});
    }

    /** A partial that turns and falls, each frame from the one before. */
    private static void add(double[] out, int rate, double hertz, double level, double fallSeconds) {
        double loss = StrictMath.pow(0.001, 1 / (fallSeconds * rate));
        double cosine = loss * StrictMath.cos(2 * StrictMath.PI * hertz / rate);
        double sine = loss * StrictMath.sin(2 * StrictMath.PI * hertz / rate);
        double x = level;
        double y = 0;
        for (int i = 0; i < out.length && Math.abs(x) + Math.abs(y) > 1e-9; i++) {
            out[i] += y;
            double turned = cosine * x - sine * y;
            y = sine * x + cosine * y;
            x = turned;
        }
    }

    private static void strike(double[] out, int rate, double level) {
        double loss = StrictMath.exp(-1 / (NOISE_SECONDS * rate));
        long state = 0x9E3779B97F4A7C15L;
        double now = level;
        double smooth = 0;
        for (int i = 0; i < out.length && now > 1e-7; i++) {
            state ^= state << 13;
            state ^= state >>> 7;
            state ^= state << 17;
            smooth += 0.4 * ((state >> 11) * 0x1p-52 - smooth);
            out[i] += now * smooth;
            now *= loss;
        }
    }
}
