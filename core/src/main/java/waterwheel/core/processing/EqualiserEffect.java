package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Processor;

/** An equaliser at work: its filters one after the other. */
final class EqualiserEffect implements Effect {
    private final FilterChain filters;

    EqualiserEffect(Processor settings, int rate) {
        filters = new FilterChain(Equalising.filters(settings, rate));
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        filters.process(signal, frames);
    }

    @Override
    public void reset() {
        filters.reset();
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof EqualiserEffect before) {
            filters.adopt(before.filters);
        }
    }
}
