package waterwheel.core.demo;

import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A sustained instrument: a wave with attack and release, vibrato, a second wave slightly out of tune, and breath.
 *
 * @param spectrum of the wave, which stands still in Hz where it has formants
 * @param attackSeconds time to full level
 * @param releaseSeconds time to die away
 * @param vibratoCents depth of vibrato once a note has settled
 * @param beatCents how far the second wave is out of tune; 0 for none
 * @param breath noise beside the tone, linear
 */
record Tone(
        Wave.Spectrum spectrum,
        double attackSeconds,
        double releaseSeconds,
        double vibratoCents,
        double beatCents,
        double breath) {

    /** Adds notes to a plane. */
    void play(List<Note> notes, float[] out, int rate, double gain, long seed) {
        Dice dice = new Dice(seed);
        Map<Integer, Wave> waves = new HashMap<>();
        for (Note note : notes) {
            Wave wave = waves.computeIfAbsent(note.key(), key -> new Wave(note.hertz(), rate, spectrum));
            play(note, wave, out, rate, gain, dice);
        }
    }

    private void play(Note note, Wave wave, float[] out, int rate, double gain, Dice dice) {
        int start = (int) ((note.start() * Tune.QUAVER_SECONDS + 0.004 * dice.next() + 0.004) * rate);
        int held = (int) (note.length() * Tune.QUAVER_SECONDS * rate * 0.97);
        int release = (int) (releaseSeconds * rate);
        double level = gain * (0.5 + 0.5 * note.force()) * (1 + 0.08 * dice.next());
        double step = note.hertz() / rate * StrictMath.pow(2, 2 * dice.next() / 1_200);
        double beat = StrictMath.pow(2, beatCents / 1_200);
        double depth = StrictMath.pow(2, vibratoCents / 1_200) - 1;
        double phase = 0.5 + 0.5 * dice.next();
        double second = 0.3;
        double vibrato = 0;
        double smooth = 0;
        double up = 1 / (attackSeconds * rate);
        double settle = 0.15 * rate;
        for (int i = 0; i < held + release && start + i < out.length; i++) {
            double envelope = Math.min(1, i * up) * (i < held ? 1 : 1 - (double) (i - held) / release);
            vibrato += 5.4 / rate;
            double bend = 1 + depth * Math.min(1, i / settle) * Wave.sine(vibrato);
            phase += step * bend;
            double value = wave.at(phase);
            if (beatCents != 0) {
                second += step * bend * beat;
                value = 0.5 * (value + wave.at(second));
            }
            if (breath > 0) {
                smooth += 0.35 * (dice.next() - smooth);
                value += breath * smooth;
            }
            out[start + i] += (float) (level * envelope * envelope * value);
        }
    }
}
