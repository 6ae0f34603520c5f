package waterwheel.core.metering;

/**
 * The K-weighting filter of ITU-R BS.1770-5 Annex 1: a high shelf of +4 dB for the head, then a high-pass, each a
 * second-order section {@code y = b0 x + b1 x₁ + b2 x₂ - a1 y₁ - a2 y₂}. The standard prints coefficients for 48 kHz
 * only; for other rates they follow from the analogue prototypes that give those (shelf at 1681.97 Hz, Q 0.7072,
 * +3.99984 dB; high-pass at 38.1355 Hz, Q 0.5003) by the bilinear transform. At 48 kHz they agree with the standard's
 * table to 1e-7.
 *
 * @param shelfB0 shelf, feed-forward
 * @param shelfB1 shelf, feed-forward
 * @param shelfB2 shelf, feed-forward
 * @param shelfA1 shelf, feedback
 * @param shelfA2 shelf, feedback
 * @param passA1 high-pass, feedback; its feed-forward coefficients are 1, -2 and 1
 * @param passA2 high-pass, feedback
 */
record KWeighting(
        double shelfB0, double shelfB1, double shelfB2, double shelfA1, double shelfA2, double passA1, double passA2) {

    /** The filter for a sample rate in Hz. */
    static KWeighting at(int sampleRateHz) {
        double k = Math.tan(Math.PI * 1681.974450955533 / sampleRateHz);
        double q = 0.7071752369554196;
        double high = Math.pow(10, 3.999843853973347 / 20);
        double band = Math.pow(high, 0.4996667741545416);
        double a0 = 1 + k / q + k * k;
        double kp = Math.tan(Math.PI * 38.13547087602444 / sampleRateHz);
        double qp = 0.5003270373238773;
        double p0 = 1 + kp / qp + kp * kp;
        return new KWeighting(
                (high + band * k / q + k * k) / a0,
                2 * (k * k - high) / a0,
                (high - band * k / q + k * k) / a0,
                2 * (k * k - 1) / a0,
                (1 - k / q + k * k) / a0,
                2 * (kp * kp - 1) / p0,
                (1 - kp / qp + kp * kp) / p0);
    }
}
