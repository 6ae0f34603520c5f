package waterwheel.core.engine;

import java.util.concurrent.atomic.AtomicInteger;

/**
 * Loudest peak since the last look. One audio thread offers, one interface thread takes; neither blocks. Linear, 0 or
 * more. The bits of floats from 0 up sort like the floats.
 */
public final class PeakTap {
    private final AtomicInteger bits = new AtomicInteger();

    void offer(float peak) {
        int offered = Float.floatToRawIntBits(peak);
        int seen = bits.get();
        while (offered > seen && !bits.compareAndSet(seen, offered)) {
            seen = bits.get();
        }
    }

    /** The loudest magnitude offered since the last call. */
    public float take() {
        return Float.intBitsToFloat(bits.getAndSet(0));
    }
}
