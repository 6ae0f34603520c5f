package waterwheel.core.songs;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import waterwheel.core.order.Correction;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.SongId;

/**
 * The gain that would bring a part of a song to its target.
 *
 * @param part whose gain it is
 * @param gainDb that the part would be corrected by in place of what it is
 * @param changeDb what that changes
 * @param reachesLufs the loudness that would result of what is brought to its target: the part's, or the sum's
 * @param heldByGuard whether it would have to be louder than its true peak allows
 */
public record Equal(SongId song, String part, double gainDb, double changeDb, double reachesLufs, boolean heldByGuard) {
    /** Gains are proposed in whole hundredths of a decibel, never more than is wanted. */
    private static final double STEPS_PER_DB = 100;

    /** A gain that is a whole number of steps is that but for rounding. */
    private static final double ROUNDING_STEPS = 1e-6;

    /**
     * Proposes gains for every song that is measured.
     *
     * @param levels as corrected now
     * @param parts which parts; empty for all that have a target. Where the sum is the goal its parts move together, and
     *     this is not asked for
     */
    public static List<Equal> of(OrderLevels levels, Collection<String> parts) {
        List<Equal> proposals = new ArrayList<>();
        for (SongRow row : levels.rows()) {
            row.known().ifPresent(song -> {
                switch (levels.order().target().goal()) {
                    case PARTS -> ofParts(levels.order(), row, song, Set.copyOf(parts), proposals);
                    case SUM -> ofSum(levels.order(), row, song, proposals);
                }
            });
        }
        return proposals;
    }

    private static void ofParts(
            RunningOrder order, SongRow row, SongLevels song, Set<String> asked, List<Equal> proposals) {
        for (PartLevels part : song.parts()) {
            if (!part.cue() && !part.whole().silent() && (asked.isEmpty() || asked.contains(part.name()))) {
                double wanted = order.targetLufs(part.name()) - part.whole().integratedLufs();
                double allowed = order.target().guardDbtp() - part.whole().truePeakDbtp();
                add(row, part, wanted, allowed, part.whole(), proposals);
            }
        }
    }

    /** One gain for all parts of a song, so that its balance stays. */
    private static void ofSum(RunningOrder order, SongRow row, SongLevels song, List<Equal> proposals) {
        Level sum = song.sum().whole();
        if (sum.silent()) {
            return;
        }
        double wanted = order.target().lufs() - sum.integratedLufs();
        double allowed = order.target().guardDbtp() - sum.truePeakDbtp();
        for (PartLevels part : song.parts()) {
            if (!part.cue() && !part.whole().silent()) {
                add(row, part, wanted, allowed, sum, proposals);
            }
        }
    }

    /**
     * @param wantedDb what would bring it to the target
     * @param allowedDb what brings its peak to the guard; what is above that already is brought down to it
     */
    private static void add(
            SongRow row, PartLevels part, double wantedDb, double allowedDb, Level moved, List<Equal> proposals) {
        double before = row.song().correction(part.name()).gainDb();
        double steps = Math.floor((before + Math.min(wantedDb, allowedDb)) * STEPS_PER_DB + ROUNDING_STEPS);
        double after = Math.clamp(steps / STEPS_PER_DB, -Correction.LIMIT_DB, Correction.LIMIT_DB);
        if (after != before) {
            proposals.add(new Equal(
                    row.song().id(),
                    part.name(),
                    after,
                    after - before,
                    moved.integratedLufs() + after - before,
                    wantedDb > allowedDb));
        }
    }

    /** Returns the running order with proposals taken. */
    public static RunningOrder applied(RunningOrder order, Collection<Equal> proposals) {
        RunningOrder changed = order;
        for (Equal one : proposals) {
            changed = changed.withSong(
                    one.song(),
                    song -> song.with(one.part(), song.correction(one.part()).withGainDb(one.gainDb())));
        }
        return changed;
    }
}
