package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * An impulse response made ready for convolution: its first frames as they are, the rest in parts of growing length as
 * spectra (W. G. Gardner, Efficient convolution without input-output delay, J. Audio Eng. Soc. 43, 1995). A part of
 * length N begins no earlier than N frames into the response, so that its block is complete before it is due, and the
 * convolution is late by nothing. Immutable; threads may share it.
 */
public final class Response {
    /** Convolved sample by sample. */
    static final int HEAD = 128;
    /** Lengths of the parts, each used from as many frames on to where the next begins. */
    private static final int[] PARTS = {128, 512, 4_096};

    private final List<Side> sides;
    private final float gain;

    /** One channel of the response. */
    static final class Side {
        final float[] head;
        final List<Parts> parts;

        private Side(float[] head, List<Parts> parts) {
            this.head = head;
            this.parts = parts;
        }
    }

    /** Parts of one length, as spectra: {@code real[part][frequency]}. */
    static final class Parts {
        final int frames;
        final float[][] real;
        final float[][] imaginary;

        private Parts(int frames, float[][] real, float[][] imaginary) {
            this.frames = frames;
            this.real = real;
            this.imaginary = imaginary;
        }
    }

    private Response(List<Side> sides, float gain) {
        this.sides = sides;
        this.gain = gain;
    }

    /**
     * Prepares a response.
     *
     * @param samples {@code samples[channel][frame]}, 1 or 2 channels at the session's rate
     */
    public static Response of(float[][] samples) {
        List<Side> sides = new ArrayList<>();
        double energy = 0;
        for (float[] channel : samples) {
            for (float value : channel) {
                energy += (double) value * value / samples.length;
            }
            sides.add(side(channel));
        }
        return new Response(List.copyOf(sides), energy == 0 ? 0 : (float) (1 / Math.sqrt(energy)));
    }

    private static Side side(float[] response) {
        List<Parts> parts = new ArrayList<>();
        for (int p = 0; p < PARTS.length && PARTS[p] < response.length; p++) {
            int end = p + 1 < PARTS.length ? Math.min(PARTS[p + 1], response.length) : response.length;
            parts.add(parts(response, PARTS[p], end));
        }
        return new Side(Arrays.copyOf(response, HEAD), List.copyOf(parts));
    }

    private static Parts parts(float[] response, int frames, int end) {
        int count = Math.ceilDiv(end - frames, frames);
        RealTransform transform = new RealTransform(2 * frames);
        float[][] real = new float[count][transform.bins()];
        float[][] imaginary = new float[count][transform.bins()];
        float[] padded = new float[2 * frames];
        for (int k = 0; k < count; k++) {
            int from = frames * (k + 1);
            Arrays.fill(padded, 0);
            System.arraycopy(response, from, padded, 0, Math.min(frames, end - from));
            transform.forward(padded, real[k], imaginary[k]);
        }
        return new Parts(frames, real, imaginary);
    }

    /** The side for a plane of a signal; a mono response serves both. */
    Side side(int plane) {
        return sides.get(Math.min(plane, sides.size() - 1));
    }

    /** What makes noise come out as loud as it goes in, linear; 0 for a silent response. */
    float gain() {
        return gain;
    }
}
