package waterwheel.core.processing;

import org.jtransforms.fft.FloatFFT_1D;
import pl.edu.icm.jlargearrays.ConcurrencyUtils;

/**
 * The Fourier transform of a power of two of real numbers, with real and imaginary parts in arrays of their own, so that
 * loops over them can take several frequencies at a time. One thread at a time; allocates nothing after construction.
 */
final class RealTransform {
    static {
        // The engine divides the work among its own threads.
        ConcurrencyUtils.setNumberOfThreads(1);
    }

    private final int size;
    private final FloatFFT_1D transform;
    private final float[] packed;

    RealTransform(int size) {
        this.size = size;
        transform = new FloatFFT_1D(size);
        packed = new float[size];
    }

    /** How many frequencies a spectrum has, from 0 to half the rate. */
    int bins() {
        return size / 2 + 1;
    }

    /** Fills a spectrum. */
    void forward(float[] signal, float[] real, float[] imaginary) {
        System.arraycopy(signal, 0, packed, 0, size);
        transform.realForward(packed);
        // The library packs the two frequencies without an imaginary part into the first two places.
        int half = size / 2;
        real[0] = packed[0];
        imaginary[0] = 0;
        real[half] = packed[1];
        imaginary[half] = 0;
        for (int k = 1; k < half; k++) {
            real[k] = packed[2 * k];
            imaginary[k] = packed[2 * k + 1];
        }
    }

    /** Fills a signal from its spectrum. */
    void inverse(float[] real, float[] imaginary, float[] signal) {
        int half = size / 2;
        packed[0] = real[0];
        packed[1] = real[half];
        for (int k = 1; k < half; k++) {
            packed[2 * k] = real[k];
            packed[2 * k + 1] = imaginary[k];
        }
        transform.realInverse(packed, true);
        System.arraycopy(packed, 0, signal, 0, size);
    }
}
