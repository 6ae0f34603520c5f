package waterwheel.core.findings;

import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.units.FaderTravel;
import waterwheel.core.units.LevelText;

/**
 * Finds what there is to say about a session from its levels. Says nothing of what is still pending.
 */
public final class Findings {
    /** Headroom that a mix should keep for what comes after it, in dB: from, to, and the middle that remedies aim at. */
    private static final double LEAST_HEADROOM_DB = 3;

    private static final double MOST_HEADROOM_DB = 6;
    private static final double AIMED_HEADROOM_DB = 4.5;
    /** Below this a fader's travel is coarse, in dB. */
    private static final double COARSE_FADER_DB = -36;
    /** Sides less alike than this hold content of their own. */
    private static final double ALIKE_CORRELATION = 0.9;

    private final SessionLevels levels;
    private final Session session;
    private final FindingList found;
    private final Faders faders;

    private Findings(SessionLevels levels, FindingList found) {
        this.levels = levels;
        this.found = found;
        this.session = levels.session();
        faders = Faders.of(session);
    }

    /** The findings of a session, the most serious first, then in the session's order. */
    public static List<Finding> of(SessionLevels levels) {
        FindingList found = new FindingList();
        new FileFindings(levels, found).judge();
        Findings findings = new Findings(levels, found);
        for (Channel channel : levels.session().channels()) {
            if (channel instanceof Track track) {
                findings.judgeTrack(track);
            }
            findings.judgeStrip(channel);
        }
        findings.judgeMain();
        new FlowFindings(levels, found).judge();
        new HardwareFindings(levels, found).judge();
        new InputFindings(levels.session(), found).judge();
        levels.frozen().forEach(findings::judgeFrozen);
        new RideFindings(levels.session(), found).judge();
        return found.sorted(levels.session());
    }

    private void judgeFrozen(Freezes.Frozen frozen) {
        if (frozen.state() == Freezes.State.FRESH) {
            return;
        }
        Channel channel = levels.session().channel(frozen.channel());
        found.add(
                Finding.Rule.FROZEN_OUT_OF_DATE,
                channel,
                channel.name()
                        + (frozen.state() == Freezes.State.LOST
                                ? " is frozen, but its frozen sound is gone or holds something else"
                                : " is frozen, and something that its sound hangs on is otherwise now")
                        + ": it plays unfrozen.",
                "Freeze it again, or unfreeze it.",
                OptionalDouble.empty(),
                FreezeLock.unfreeze(channel));
    }

    private void judgeTrack(Track track) {
        Optional<ChannelLevels> known = levels.of(track.id());
        boolean nothing = track.clips().isEmpty() && track.feed() instanceof Feed.Clips;
        // One that an input feeds waits to be recorded.
        boolean waits = track.clips().isEmpty() && track.input().isPresent();
        boolean empty = !waits && (nothing || known.map(l -> l.first().silent()).orElse(false));
        boolean missing = found.has(Finding.Rule.MISSING_FILE, track);
        if (track.feed() instanceof Feed.Output && session.performance(track).isEmpty()) {
            found.add(
                    Finding.Rule.PLAYER_GONE,
                    track,
                    track.name() + " is an output of an instrument whose track is gone: it is silent.",
                    "Bring the instrument's track back by undoing, or take its notes in once more and leave this one"
                            + " out.",
                    OptionalDouble.empty(),
                    null);
        } else if (empty && !missing) {
            found.add(
                    Finding.Rule.EMPTY_TRACK,
                    track,
                    track.name() + " is silent from beginning to end.",
                    "Leave it out, or check that its file is the right one.",
                    OptionalDouble.empty(),
                    null);
        } else if (track.strip().muted()
                && track.strip().rides().active(Strip.MUTED.key()).isEmpty()) {
            found.add(
                    Finding.Rule.MUTED_TRACK,
                    track,
                    track.name() + " is muted: it is neither in the mix nor among the stems.",
                    "Unmute it if it belongs to the song.",
                    OptionalDouble.empty(),
                    Edits.mute(track, false));
        } else {
            judgeMutingVca(track);
        }
        known.ifPresent(found -> judgeNoise(track, found));
        Placement placement = track.strip().placement();
        if (track.planes() == 2
                && placement.mode() == Placement.Mode.BALANCE
                && placement.position() != 0
                && known.isPresent()) {
            Figures source = known.get().beforeTrim();
            if (source.correlation() < ALIKE_CORRELATION) {
                String far = placement.position() > 0 ? "left" : "right";
                found.add(
                        Finding.Rule.BALANCE_LOSES_CONTENT,
                        track,
                        "The balance of " + track.name() + " turns its " + far
                                + " side down, and what is only there is lost from the mix (its sides correlate by "
                                + LevelText.signed(source.correlation(), 2, true) + ").",
                        "Place it instead: both sides move and nothing is lost.",
                        OptionalDouble.empty(),
                        Edits.placement(
                                track,
                                placement
                                        .withMode(Placement.Mode.PLACE)
                                        .withWidth(1 - Math.abs(placement.position()))));
            }
        }
    }

    private void judgeMutingVca(Track track) {
        faders.above(track.id()).stream()
                .filter(Vca::muted)
                .findFirst()
                .ifPresent(vca -> found.add(
                        Finding.Rule.MUTED_TRACK,
                        track,
                        track.name() + " is muted by the VCA " + vca.name()
                                + ": it is neither in the mix nor among the stems.",
                        "Unmute the VCA if its members belong to the song.",
                        OptionalDouble.empty(),
                        GroupEdits.vca(vca, v -> v.withMuted(false))));
    }

    private void judgeNoise(Track track, ChannelLevels known) {
        double threshold = session.staging().noiseFloorDbfs();
        double before = known.first().noiseFloorDbfs();
        double after = known.at(Stage.TRIM).noiseFloorDbfs();
        if (before <= threshold && after > threshold) {
            found.add(
                    Finding.Rule.RAISED_NOISE,
                    track,
                    "The gain of " + track.name() + " raises its noise floor to " + LevelText.level(after, "dBFS")
                            + ", above the " + LevelText.level(threshold, "dBFS") + " of this session.",
                    "Ask for a take with less noise, or gate its rests; a lower trim only makes it softer.",
                    OptionalDouble.empty(),
                    null);
        }
    }

    private void judgeStrip(Channel channel) {
        double fader = channel.strip().faderDb();
        if (fader < COARSE_FADER_DB && fader > Double.NEGATIVE_INFINITY) {
            double step = FaderTravel.dbPerPercent(fader);
            found.add(
                    Finding.Rule.COARSE_FADER,
                    channel,
                    "The fader of " + channel.name() + " stands at " + LevelText.level(fader, "dB")
                            + ", where one percent of its travel is " + LevelText.signed(step, 1, false)
                            + " dB: it cannot be set finely there.",
                    "Hand the attenuation to the trim and bring the fader back to 0 dB: the level stays the same, and"
                            + " what is inserted between them is driven softer by as much.",
                    OptionalDouble.empty(),
                    Edits.faderToTrim(List.of(channel)));
        }
    }

    private void judgeMain() {
        ChannelLevels known = levels.of(session.mainId()).orElse(null);
        if (known == null) {
            return;
        }
        Channel main = session.main();
        Figures mix = known.at(Stage.OUTPUT);
        double headroom = mix.headroomDb();
        if (mix.silent()) {
            return;
        }
        Edit remedy = trimMainBy(main, headroom - AIMED_HEADROOM_DB);
        OptionalDouble when = OptionalDouble.of(mix.peakAtSeconds());
        if (headroom < 0) {
            found.add(
                    Finding.Rule.MAIN_OVER_FULL_SCALE,
                    main,
                    main.name() + " is " + LevelText.signed(-headroom, 1, true)
                            + " dB over full scale. Inside the mix that is no loss, but a fixed-point file or a"
                            + " converter would cut it off.",
                    "Turn the hottest tracks down by their trims, or all together by the trim of " + main.name() + ".",
                    when,
                    remedy);
        } else if (headroom < LEAST_HEADROOM_DB) {
            found.add(
                    Finding.Rule.LITTLE_HEADROOM,
                    main,
                    main.name() + " has " + LevelText.signed(headroom, 1, false) + " dB of headroom; "
                            + LevelText.signed(LEAST_HEADROOM_DB, 0, false) + " to "
                            + LevelText.signed(MOST_HEADROOM_DB, 0, false)
                            + " dB leave room for what comes after the mix.",
                    "Turn the hottest tracks down by their trims, or all together by the trim of " + main.name() + ".",
                    when,
                    remedy);
        }
    }

    private static Edit trimMainBy(Channel main, double db) {
        return Edits.trim(main, Math.round((main.strip().standingDb(Strip.TRIM) + db) * 10) / 10.0);
    }
}
