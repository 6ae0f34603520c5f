package waterwheel.core.instruments;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Ranges;

/** What plays notes. */
public sealed interface Instrument {
    int MOST_OUTPUTS = 16;

    /** Its name on screen. */
    String name();

    /** The outputs that something comes out of, from 1, in order. */
    List<Integer> outputs();

    /** The audio files that it plays. */
    default List<SourceId> sources() {
        return List.of();
    }

    /** Plays parts of audio files. */
    record Sampler(String name, List<Region> regions) implements Instrument {
        public Sampler {
            regions = List.copyOf(regions);
        }

        @Override
        public List<Integer> outputs() {
            Set<Integer> all = new TreeSet<>();
            regions.forEach(region -> all.add(region.output()));
            return all.isEmpty() ? List.of(1) : List.copyOf(all);
        }

        @Override
        public List<SourceId> sources() {
            return regions.stream().map(Region::source).distinct().toList();
        }
    }

    /**
     * A struck or plucked string, bar or bell, as a sum of decaying partials (N. H. Fletcher and T. D. Rossing, The Physics
     * of Musical Instruments, 2nd ed., chapter 2).
     *
     * @param decaySeconds the fundamental's time to fall by 60 dB at middle C, 0.05 to 12; an octave up it is 0.7 of it
     * @param brightness how strong high partials are, 0 to 1
     * @param damping how much sooner high partials are gone, 0 to 1
     * @param stiffness how far partials are from being harmonic: 0 for a string, 1 for a bell
     * @param position where it is struck, as part of its length, 0.02 to 0.5
     * @param strike level of the noise of the stroke, 0 to 1
     * @param releaseSeconds time to fall by 60 dB once the key is let go, 0.01 to 12
     */
    record Synth(
            String name,
            double decaySeconds,
            double brightness,
            double damping,
            double stiffness,
            double position,
            double strike,
            double releaseSeconds)
            implements Instrument {
        /** What can be set of it, in the order of the record. */
        public static final List<SynthParameter> PARAMETERS = List.of(
                new SynthParameter("Decay", "s", 0.05, 12, 0.1),
                new SynthParameter("Bright", "", 0, 1, 0.05),
                new SynthParameter("Damped", "", 0, 1, 0.05),
                new SynthParameter("Stiff", "", 0, 1, 0.005),
                new SynthParameter("Place", "", 0.02, 0.5, 0.01),
                new SynthParameter("Strike", "", 0, 1, 0.05),
                new SynthParameter("Release", "s", 0.01, 12, 0.05));

        public static final Synth PLUCKED = new Synth("Plucked string", 3, 0.55, 0.4, 0.005, 0.13, 0.15, 0.12);
        public static final Synth STRUCK = new Synth("Struck bar", 1.6, 0.35, 0.6, 0.6, 0.28, 0.3, 1.6);

        public Synth {
            double[] values = {decaySeconds, brightness, damping, stiffness, position, strike, releaseSeconds};
            for (int i = 0; i < values.length; i++) {
                SynthParameter parameter = PARAMETERS.get(i);
                Ranges.checked(parameter.label(), values[i], parameter.least(), parameter.most());
            }
        }

        /** Its settings, in the order of {@link #PARAMETERS}. */
        public double[] values() {
            return new double[] {decaySeconds, brightness, damping, stiffness, position, strike, releaseSeconds};
        }

        /** With one of its settings changed, brought into its range. */
        public Synth with(int parameter, double value) {
            double[] v = values();
            v[parameter] = Math.clamp(
                    value,
                    PARAMETERS.get(parameter).least(),
                    PARAMETERS.get(parameter).most());
            return new Synth(name, v[0], v[1], v[2], v[3], v[4], v[5], v[6]);
        }

        @Override
        public List<Integer> outputs() {
            return List.of(1);
        }
    }
}
