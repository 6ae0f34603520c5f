package waterwheel.core.stems;

import java.util.List;
import waterwheel.core.captures.StemShare;
import waterwheel.core.session.Session;
import waterwheel.core.units.Ranges;

/**
 * What stems sound like.
 *
 * @param division what each is made of
 * @param treatment what buses do with each
 * @param tap where they are taken
 * @param tailSeconds how long they go on after the song's end, so that reverbs die away; 0 to 60
 */
public record StemSettings(StemDivision division, Treatment treatment, StemTap tap, double tailSeconds) {
    public static final double MOST_TAIL_SECONDS = 60;

    /** A stem of each track, behind the main bus, until the song's end. */
    public static final StemSettings USUAL =
            new StemSettings(StemDivision.TRACKS, Treatment.AS_MIX, StemTap.AFTER_MAIN, 0);

    public StemSettings {
        tailSeconds = Ranges.checked("tailSeconds", tailSeconds, 0, MOST_TAIL_SECONDS);
    }

    /** What each stem is of a session. */
    public List<StemShare> shares(Session session) {
        return division.of(session).stream()
                .map(group -> group.share(treatment))
                .toList();
    }

    public StemSettings withDivision(StemDivision value) {
        return new StemSettings(value, treatment, tap, tailSeconds);
    }

    public StemSettings withTreatment(Treatment value) {
        return new StemSettings(division, value, tap, tailSeconds);
    }

    public StemSettings withTap(StemTap value) {
        return new StemSettings(division, treatment, value, tailSeconds);
    }

    public StemSettings withTailSeconds(double value) {
        return new StemSettings(division, treatment, tap, value);
    }
}
