package waterwheel.core.ports;

/** Samples of one channel among interleaved bytes, signed, the least significant byte first; full scale is ±1.0. */
final class Samples {
    private Samples() {}

    /** @param bytes of a sample: 2 or 3 */
    static void encode(float[] from, int frames, byte[] to, int channel, int channels, int bytes) {
        int most = (1 << (8 * bytes - 1)) - 1;
        for (int i = 0; i < frames; i++) {
            int value = (int) Math.clamp(Math.rint((double) from[i] * most), -most - 1, most);
            int at = (i * channels + channel) * bytes;
            for (int b = 0; b < bytes; b++) {
                to[at + b] = (byte) (value >> (8 * b));
            }
        }
    }

    /** @param bytes of a sample: 2 or 3 */
    static void decode(byte[] from, int channel, int channels, int bytes, float[] to, int frames) {
        float step = 1f / ((1 << (8 * bytes - 1)) - 1);
        for (int i = 0; i < frames; i++) {
            int at = (i * channels + channel) * bytes;
            int value = from[at + bytes - 1];
            for (int b = bytes - 2; b >= 0; b--) {
                value = value << 8 | (from[at + b] & 0xff);
            }
            to[i] = value * step;
        }
    }
}
