package waterwheel.core.outboard;

import org.jtransforms.fft.DoubleFFT_1D;
import pl.edu.icm.jlargearrays.ConcurrencyUtils;

/** The Fourier transform of a period of real samples, of a power of two frames. One thread at a time. */
final class Spectrum {
    static {
        ConcurrencyUtils.setNumberOfThreads(1);
    }

    private final double[] real;
    private final double[] imaginary;
    private final int frames;

    /** One of silence. */
    Spectrum(int frames) {
        this.frames = frames;
        real = new double[frames / 2 + 1];
        imaginary = new double[frames / 2 + 1];
    }

    static Spectrum of(float[] signal) {
        double[] samples = new double[signal.length];
        for (int i = 0; i < samples.length; i++) {
            samples[i] = signal[i];
        }
        return of(samples);
    }

    static Spectrum of(double[] signal) {
        Spectrum spectrum = new Spectrum(signal.length);
        double[] packed = signal.clone();
        new DoubleFFT_1D(signal.length).realForward(packed);
        int half = signal.length / 2;
        // The library packs the two frequencies without an imaginary part into the first two places.
        spectrum.set(0, packed[0], 0);
        spectrum.set(half, packed[1], 0);
        for (int k = 1; k < half; k++) {
            spectrum.set(k, packed[2 * k], packed[2 * k + 1]);
        }
        return spectrum;
    }

    void set(int bin, double re, double im) {
        real[bin] = re;
        imaginary[bin] = im;
    }

    int frames() {
        return frames;
    }

    /** Magnitude at a frequency, by its number. */
    double magnitude(int bin) {
        return Math.hypot(real[bin], imaginary[bin]);
    }

    /** Divided by another frequency by frequency; 0 at the two ends, where no sound is. */
    Spectrum over(Spectrum other) {
        Spectrum quotient = new Spectrum(frames);
        for (int k = 1; k < frames / 2; k++) {
            double square = other.real[k] * other.real[k] + other.imaginary[k] * other.imaginary[k];
            quotient.set(
                    k,
                    (real[k] * other.real[k] + imaginary[k] * other.imaginary[k]) / square,
                    (imaginary[k] * other.real[k] - real[k] * other.imaginary[k]) / square);
        }
        return quotient;
    }

    /** The period's samples. */
    double[] signal() {
        double[] packed = new double[frames];
        int half = frames / 2;
        packed[0] = real[0];
        packed[1] = real[half];
        for (int k = 1; k < half; k++) {
            packed[2 * k] = real[k];
            packed[2 * k + 1] = imaginary[k];
        }
        new DoubleFFT_1D(frames).realInverse(packed, true);
        return packed;
    }

    /** The period's value between its samples: exact, because nothing of it lies above half the rate. */
    double at(double frame) {
        int half = frames / 2;
        double turn = 2 * Math.PI * frame / frames;
        double sum = real[0] + real[half] * Math.cos(turn * half);
        // The angle goes on by a rotation, begun anew now and then, so that errors do not grow.
        double stepCos = Math.cos(turn);
        double stepSin = Math.sin(turn);
        double cos = 1;
        double sin = 0;
        for (int k = 1; k < half; k++) {
            if (k % 512 == 0) {
                cos = Math.cos(turn * k);
                sin = Math.sin(turn * k);
            } else {
                double next = cos * stepCos - sin * stepSin;
                sin = sin * stepCos + cos * stepSin;
                cos = next;
            }
            sum += 2 * (real[k] * cos - imaginary[k] * sin);
        }
        return sum / frames;
    }
}
