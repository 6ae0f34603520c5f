package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.edit.Edit;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;

/**
 * Rides that are proposed: nothing changes until they are accepted.
 *
 * @param edit what accepting them does
 * @param after the session as it would be
 * @param what the differences are of, in words
 * @param changes by section, in LU or LUFS as {@code what} says; of sections in which there is something to compare
 */
public record RideProposal(Edit edit, Session after, String what, List<Change> changes) {
    /** What a section has and would have. */
    public record Change(String section, double before, double after) {}

    public RideProposal {
        changes = List.copyOf(changes);
    }

    /** The song's sections, or the whole song where it has none. */
    static List<Section> sections(Session session) {
        return session.sections().isEmpty()
                ? List.of(new Section("Whole song", 0, Math.max(1, session.lengthFrames())))
                : session.sections();
    }

    /** Integrated loudness of a section in LUFS. */
    static double loudness(LevelSeries series, Section section) {
        long end = Math.min(section.endFrames(), series.frames());
        return section.startFrames() >= end
                ? Double.NEGATIVE_INFINITY
                : Loudness.integratedLufs(series.during(section.startFrames(), end));
    }

    /** What is told of a section: two figures. */
    interface Figure {
        double of(Section section);
    }

    static List<Change> changes(Session session, Figure before, Figure after) {
        List<Change> all = new ArrayList<>();
        for (Section section : sections(session)) {
            Change change = new Change(section.name(), before.of(section), after.of(section));
            if (Double.isFinite(change.before()) && Double.isFinite(change.after())) {
                all.add(change);
            }
        }
        return all;
    }
}
