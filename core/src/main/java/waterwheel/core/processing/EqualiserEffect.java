package waterwheel.core.processing;

import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/** An equaliser at work: its filters one after the other. */
final class EqualiserEffect implements Effect {
    private final Biquad[] filters;
    private final Biquad.State[] states;

    EqualiserEffect(Processor settings, int rate) {
        List<Biquad> all = Equalising.filters(settings, rate);
        filters = all.toArray(Biquad[]::new);
        states = new Biquad.State[filters.length];
        for (int i = 0; i < states.length; i++) {
            states[i] = new Biquad.State();
        }
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        for (int f = 0; f < filters.length; f++) {
            if (signal.length == 2) {
                states[f].stereo(filters[f], signal[0], signal[1], frames);
            } else {
                states[f].mono(filters[f], signal[0], frames);
            }
        }
    }

    @Override
    public void reset() {
        for (Biquad.State state : states) {
            state.reset();
        }
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof EqualiserEffect before && before.states.length == states.length) {
            for (int f = 0; f < states.length; f++) {
                states[f].adopt(before.states[f]);
            }
        }
    }
}
