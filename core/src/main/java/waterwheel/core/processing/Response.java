package waterwheel.core.processing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An impulse response made ready for convolution: its first frames as they are, the rest in parts of growing length as
 * spectra (W. G. Gardner, Efficient convolution without input-output delay, J. Audio Eng. Soc. 43, 1995). A part of
 * length N begins no earlier than N frames into the response, so that its block is complete before it is due, and the
 * convolution is late by nothing. Threads may share it.
 */
public final class Response {
    /** Convolved sample by sample. */
    static final int HEAD = 128;
    /** Lengths of the parts, each used from as many frames on to where the next begins. */
    private static final int[] PARTS = {128, 2_048};

    private final List<Side> sides;
    private final float gain;
    private final float foldedGain;
    /** Made when the first mono signal wants it. */
    private @Nullable Side folded;
    /** Of a stereo signal, by plane; likewise. */
    private final @Nullable Response[] planes = new Response[2];

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

    private Response(List<Side> sides, float gain, float foldedGain) {
        this.sides = sides;
        this.gain = gain;
        this.foldedGain = foldedGain;
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
            energy += energy(channel) / samples.length;
            sides.add(side(channel));
        }
        double folded = 0;
        for (int i = 0; i < samples[0].length; i++) {
            double half = (samples[0][i] + samples[samples.length - 1][i]) / 2.0;
            folded += half * half;
        }
        return new Response(List.copyOf(sides), gain(energy), gain(folded));
    }

    private static double energy(float[] samples) {
        double energy = 0;
        for (float value : samples) {
            energy += (double) value * value;
        }
        return energy;
    }

    private static float gain(double energy) {
        return energy == 0 ? 0 : (float) (1 / Math.sqrt(energy));
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

    /**
     * The side for a plane of a signal: left with left and right with right; a mono response serves both sides, and of a
     * stereo one a mono signal gets half the sum.
     *
     * @param planes how many planes the signal has
     */
    Side side(int plane, int planes) {
        return planes == 1 ? folded() : sides.get(Math.min(plane, sides.size() - 1));
    }

    /**
     * The response of a plane of a signal by itself, always the same object.
     *
     * @param planes how many planes the signal has
     */
    synchronized Response plane(int plane, int planes) {
        if (planes == 1) {
            return this;
        }
        Response made = this.planes[plane];
        if (made == null) {
            float gain = gain(planes);
            made = new Response(List.of(side(plane, planes)), gain, gain);
            this.planes[plane] = made;
        }
        return made;
    }

    /** Half the sum of both sides; spectra add as what they are of does. */
    private synchronized Side folded() {
        Side made = folded;
        if (made == null) {
            Side left = sides.getFirst();
            Side right = sides.getLast();
            List<Parts> parts = new ArrayList<>();
            for (int i = 0; i < left.parts.size(); i++) {
                Parts one = left.parts.get(i);
                Parts other = right.parts.get(i);
                parts.add(new Parts(one.frames, half(one.real, other.real), half(one.imaginary, other.imaginary)));
            }
            made = left == right
                    ? left
                    : new Side(half(new float[][] {left.head}, new float[][] {right.head})[0], List.copyOf(parts));
            folded = made;
        }
        return made;
    }

    private static float[][] half(float[][] one, float[][] other) {
        float[][] sum = new float[one.length][];
        for (int k = 0; k < one.length; k++) {
            sum[k] = one[k].clone();
            for (int i = 0; i < sum[k].length; i++) {
                sum[k][i] = (one[k][i] + other[k][i]) / 2;
            }
        }
        return sum;
    }

    /**
     * What makes noise come out as loud as it goes in, linear; 0 for a silent response.
     *
     * @param planes how many planes the signal has
     */
    float gain(int planes) {
        return planes == 1 ? foldedGain : gain;
    }
}
