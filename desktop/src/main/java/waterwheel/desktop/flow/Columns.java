package waterwheel.desktop.flow;

/**
 * Where the map's columns stand, in pixels. Tracks, whose name and level share a line, get what buses leave, so that names
 * can be read.
 *
 * @param tracks width of the first column's cards
 * @param buses width of the other columns' cards
 * @param gap between columns, for the links
 */
record Columns(double tracks, double buses, double gap) {
    private static final double NARROWEST = 104;
    private static final double WIDEST_BUS = 130;
    private static final double WIDEST_TRACK = 164;
    private static final double LEAST_GAP = 28;

    /** Shares the room out; where it is not enough, the map is wider than it. */
    static Columns in(double room, int count) {
        int behind = Math.max(1, count - 1);
        double shared = room - behind * LEAST_GAP;
        double buses = Math.clamp((shared - WIDEST_TRACK) / behind, NARROWEST, WIDEST_BUS);
        double tracks = Math.clamp(shared - behind * buses, NARROWEST, WIDEST_TRACK);
        double gap = Math.max(LEAST_GAP, (room - tracks - behind * buses) / behind);
        return new Columns(tracks, buses, gap);
    }

    /** Left edge of a column's cards. */
    double x(int column) {
        return column == 0 ? 0 : tracks + gap + (column - 1) * (buses + gap);
    }

    /** Width of a column's cards. */
    double width(int column) {
        return column == 0 ? tracks : buses;
    }
}
