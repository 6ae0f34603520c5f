package waterwheel.core.stems;

import java.util.List;
import java.util.Optional;
import waterwheel.core.captures.StemShare;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.units.Ranges;

/**
 * What stems sound like.
 *
 * @param division what each is made of
 * @param treatment what buses do with each
 * @param tap where they are taken
 * @param tailSeconds how long they go on after their end, so that reverbs die away; 0 to 60
 * @param only the stretch of the song that is rendered; empty for all of it
 * @param mono whether a stem whose two sides are the same is written as one
 */
public record StemSettings(
        StemDivision division,
        Treatment treatment,
        StemTap tap,
        double tailSeconds,
        Optional<Section> only,
        boolean mono) {
    public static final double MOST_TAIL_SECONDS = 60;

    /** A stem of each track, behind the main bus, the whole song. */
    public static final StemSettings USUAL =
            new StemSettings(StemDivision.TRACKS, Treatment.AS_MIX, StemTap.AFTER_MAIN, 0, Optional.empty(), false);

    public StemSettings {
        tailSeconds = Ranges.checked("tailSeconds", tailSeconds, 0, MOST_TAIL_SECONDS);
    }

    /** What each stem is of a session. */
    public List<StemShare> shares(Session session) {
        return StemGroups.of(session, division).stream()
                .map(group -> group.share(treatment))
                .toList();
    }

    /** The first frame that is rendered, on the song's line. */
    public long fromFrame() {
        return only.map(Section::startFrames).orElse(0L);
    }

    /** The frame after the last one that is rendered, the tail with it. */
    long toFrame(Session session) {
        long end = only.map(Section::endFrames).orElse(session.lengthFrames());
        return end + Math.round(tailSeconds * session.sampleRateHz());
    }

    /** How many frames every file has. */
    public long frames(Session session) {
        return toFrame(session) - fromFrame();
    }

    public StemSettings withDivision(StemDivision value) {
        return new StemSettings(value, treatment, tap, tailSeconds, only, mono);
    }

    public StemSettings withTreatment(Treatment value) {
        return new StemSettings(division, value, tap, tailSeconds, only, mono);
    }

    public StemSettings withTap(StemTap value) {
        return new StemSettings(division, treatment, value, tailSeconds, only, mono);
    }

    public StemSettings withTailSeconds(double value) {
        return new StemSettings(division, treatment, tap, value, only, mono);
    }

    public StemSettings withOnly(Optional<Section> value) {
        return new StemSettings(division, treatment, tap, tailSeconds, value, mono);
    }

    public StemSettings withMono(boolean value) {
        return new StemSettings(division, treatment, tap, tailSeconds, only, value);
    }
}
