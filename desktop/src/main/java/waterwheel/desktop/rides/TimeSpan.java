package waterwheel.desktop.rides;

/**
 * The stretch of the song that is shown.
 *
 * @param from its first frame
 * @param length in frames, 1 or more
 */
record TimeSpan(long from, long length) {
    /** A part of a width for a frame; beyond 0 and 1 outside the stretch. */
    double place(long frame) {
        return (double) (frame - from) / length;
    }

    long frame(double place) {
        return Math.max(0, from + Math.round(place * length));
    }

    long end() {
        return from + length;
    }
}
