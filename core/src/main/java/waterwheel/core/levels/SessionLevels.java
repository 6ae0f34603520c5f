package waterwheel.core.levels;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.SlotState;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.SourceId;

/**
 * What is known of a session's levels. Belongs to exactly that session: a channel that is absent is pending.
 *
 * @param session the session that the figures are true of
 * @param channels by channel; absent while pending
 * @param section levels within the section that was asked for; null where none was
 * @param mainSeries the mix over time; null while pending
 * @param pairs what goes to the interface's further stereo pairs, by number; absent while pending or where nothing does
 * @param files facts of the audio files; absent while pending or where a file cannot be read
 * @param problems why files cannot be played, a sentence each
 * @param changed sources whose files hold other audio than when the session was made, with the hashes of that
 * @param hardware how it stands with the captures of hardware slots; none while pending
 * @param frozen the frozen channels and whether that is what they would be; none while pending
 * @param complete whether nothing is pending
 */
public record SessionLevels(
        Session session,
        Map<ChannelId, ChannelLevels> channels,
        @Nullable SectionLevels section,
        @Nullable LevelSeries mainSeries,
        Map<Integer, Figures> pairs,
        Map<SourceId, FileFacts> files,
        Map<SourceId, String> problems,
        Map<SourceId, String> changed,
        List<SlotState> hardware,
        List<Freezes.Frozen> frozen,
        boolean complete) {
    public SessionLevels {
        channels = Map.copyOf(channels);
        pairs = Map.copyOf(pairs);
        files = Map.copyOf(files);
        problems = Map.copyOf(problems);
        changed = Map.copyOf(changed);
        hardware = List.copyOf(hardware);
        frozen = List.copyOf(frozen);
    }

    /** Nothing known yet. */
    public static SessionLevels pending(Session session) {
        return new SessionLevels(
                session, Map.of(), null, null, Map.of(), Map.of(), Map.of(), Map.of(), List.of(), List.of(), false);
    }

    /** The same levels while those of another section, or of none, are asked for and pending. */
    public SessionLevels within(@Nullable Section asked) {
        return new SessionLevels(
                session,
                channels,
                asked == null ? null : new SectionLevels(asked, Map.of()),
                mainSeries,
                pairs,
                files,
                problems,
                changed,
                hardware,
                frozen,
                complete && asked == null);
    }

    /** Whether all files of a track can be played; where one cannot, its level is not what it would be. */
    public boolean played(Track track) {
        return track.clips().stream().noneMatch(clip -> problems.containsKey(clip.source()));
    }

    public Optional<ChannelLevels> of(ChannelId id) {
        return Optional.ofNullable(channels.get(id));
    }

    /** A channel's levels within the section that was asked for, or over the whole song where none was. */
    public Optional<ChannelLevels> asked(ChannelId id) {
        return section == null ? of(id) : Optional.ofNullable(section.channels().get(id));
    }

    /** The mix's figures, after the main bus's fader, over the whole song. */
    public Optional<Figures> main() {
        return of(session.mainId()).map(levels -> levels.at(Stage.OUTPUT));
    }

    /** The mix's figures within the section that was asked for, or over the whole song where none was. */
    public Optional<Figures> askedMain() {
        return asked(session.mainId()).map(levels -> levels.at(Stage.OUTPUT));
    }
}
