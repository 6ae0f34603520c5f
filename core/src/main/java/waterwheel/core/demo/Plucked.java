package waterwheel.core.demo;

import java.util.List;

/**
 * A plucked or struck string: noise in a loop of one period with a low-pass in it (Karplus and Strong, Digital
 * synthesis of plucked-string and drum timbres, Computer Music Journal 7(2), 1983), tuned by linear interpolation.
 *
 * @param brightness of the low-pass, 0 dull to 1
 * @param decaySeconds time to fall by 60 dB
 * @param hardness of the hammer or finger, 0 to 1
 */
record Plucked(double brightness, double decaySeconds, double hardness) {
    void play(List<Note> notes, float[] out, int rate, double gain, long seed) {
        Dice dice = new Dice(seed);
        for (Note note : notes) {
            play(note, out, rate, gain * (0.4 + 0.6 * note.force()), dice);
        }
    }

    private void play(Note note, float[] out, int rate, double gain, Dice dice) {
        double period = rate / note.hertz() - (1 - brightness) * 0.5 - 0.5;
        int length = (int) period + 1;
        double fraction = length - period;
        double[] loop = new double[length];
        double smooth = 0;
        for (int i = 0; i < length; i++) {
            smooth += (0.15 + 0.85 * hardness) * (dice.next() - smooth);
            loop[i] = smooth;
        }
        double loss = StrictMath.pow(0.001, 1 / (decaySeconds * note.hertz()));
        double mix = 0.5 + 0.5 * brightness;
        int start = (int) ((note.start() * Tune.QUAVER_SECONDS + 0.003 * dice.next() + 0.003) * rate);
        int frames = (int) Math.min(decaySeconds * rate, out.length - start);
        int damped = (int) (note.length() * Tune.QUAVER_SECONDS * rate);
        double previous = 0;
        double mute = 1;
        int at = 0;
        for (int i = 0; i < frames; i++) {
            int next = at + 1 == length ? 0 : at + 1;
            double value = loop[at] + fraction * (loop[next] - loop[at]);
            double filtered = mix * value + (1 - mix) * previous;
            previous = value;
            loop[at] = filtered * loss;
            at = next;
            if (i > damped) {
                mute *= 0.9997;
            }
            out[start + i] += (float) (gain * mute * value);
        }
    }
}
