package waterwheel.core.demo;

import java.util.List;

/**
 * A struck skin or board: a tone that falls in pitch, and a noise burst.
 *
 * @param hertz of the tone when it has settled
 * @param fallHertz how much higher it begins
 * @param decaySeconds of the tone, to 1/e
 * @param strike level of the noise burst
 */
record Drum(double hertz, double fallHertz, double decaySeconds, double strike) {
    void play(List<Note> strokes, float[] out, int rate, double gain, long seed) {
        Dice dice = new Dice(seed);
        for (Note stroke : strokes) {
            int start = (int) ((stroke.start() * Tune.QUAVER_SECONDS + 0.003 * dice.next() + 0.003) * rate);
            double level = gain * stroke.force() * (1 + 0.12 * dice.next());
            double fade = StrictMath.exp(-1 / (decaySeconds * rate));
            double fall = StrictMath.exp(-1 / (0.03 * rate));
            double burst = StrictMath.exp(-1 / (0.006 * rate));
            double tone = 1;
            double extra = fallHertz * (0.7 + 0.3 * stroke.force());
            double noise = strike;
            double smooth = 0;
            double phase = 0;
            int frames = (int) Math.min(decaySeconds * 7 * rate, out.length - start);
            for (int i = 0; i < frames; i++) {
                phase += (hertz + extra) / rate;
                smooth += 0.3 * (dice.next() - smooth);
                out[start + i] += (float) (level * (tone * Wave.sine(phase) + noise * smooth));
                tone *= fade;
                extra *= fall;
                noise *= burst;
            }
        }
    }
}
