package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.staging.TrimProposal.Reason;
import waterwheel.core.work.Progress;

/**
 * Proposes gains for clips: each clip is brought, by its own stretch of its file and behind its track's present trim, to
 * where a trim would bring a whole track. What would result is measured, because clips may overlap and have curves.
 */
public final class ClipGainProposals {
    private ClipGainProposals() {}

    /** A clip with the gain that its aim wants. */
    private record Item(Clip clip, double wantedDb, Reason reason) {}

    /**
     * Proposes clip gains; cues and silent tracks get none, and a silent clip keeps its gain.
     *
     * @param channels which tracks are staged
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static TrimProposals of(
            SongMeasure measure, Session session, Set<ChannelId> channels, Aim aim, Progress progress) {
        Map<Track, List<Item>> items = new LinkedHashMap<>();
        for (Track track : session.tracks()) {
            if (channels.contains(track.id()) && !track.cue() && measure.plays(track)) {
                List<Item> clips = new ArrayList<>();
                for (Clip clip : track.clips()) {
                    Figures figures = Figures.of(measure.clip(session, track, clip, progress));
                    clips.add(item(session, track, clip, figures, aim));
                }
                if (clips.stream().anyMatch(i -> Double.isFinite(i.wantedDb()))) {
                    items.put(track, clips);
                }
            }
        }
        double common = aim.together() ? commonChangeDb(items) : Double.NaN;
        List<TrimProposal> list = new ArrayList<>();
        items.forEach((track, clips) -> list.add(proposal(measure, session, track, clips, common, progress)));
        return new TrimProposals(session, list);
    }

    private static Item item(Session session, Track track, Clip clip, Figures figures, Aim aim) {
        if (figures.silent()) {
            return new Item(clip, Double.NaN, Reason.BALANCE);
        }
        TrimProposals.Wanted wanted = TrimProposals.wanted(session, track, figures, aim);
        double gain = Math.rint((wanted.trimDb() - track.strip().standingDb(Strip.TRIM)) * 100) / 100;
        double limited = Math.clamp(gain, -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        return new Item(clip, limited, limited == gain ? wanted.reason() : Reason.RANGE);
    }

    /** The largest change in whole steps that takes no clip past its own target or its gain's range. */
    private static double commonChangeDb(Map<Track, List<Item>> items) {
        double most = Double.POSITIVE_INFINITY;
        double least = Double.NEGATIVE_INFINITY;
        for (List<Item> clips : items.values()) {
            for (Item item : clips) {
                if (Double.isFinite(item.wantedDb())) {
                    most = Math.min(most, item.wantedDb() - item.clip().gainDb());
                }
                least = Math.max(least, -Strip.TRIM_LIMIT_DB - item.clip().gainDb());
            }
        }
        return Math.max(TrimProposals.stepBelow(most), least);
    }

    private static TrimProposal proposal(
            SongMeasure measure, Session session, Track track, List<Item> items, double common, Progress progress) {
        List<Double> gains = new ArrayList<>();
        Reason reason = Double.isNaN(common) ? Reason.AVERAGE : Reason.BALANCE;
        for (Item item : items) {
            double present = item.clip().gainDb();
            if (!Double.isNaN(common)) {
                gains.add(Math.rint((present + common) * 100) / 100);
            } else if (Double.isFinite(item.wantedDb())) {
                gains.add(item.wantedDb());
                reason = item.reason().compareTo(reason) > 0 ? item.reason() : reason;
            } else {
                gains.add(present);
            }
        }
        Session staged = ClipEdits.gains(Map.of(track.id(), gains)).apply(session);
        Track changed = (Track) staged.channel(track.id());
        Session bare = session.withChannel(
                track.id(),
                c -> track.withClips(track.clips().stream().map(Clip::bare).toList()));
        double noise =
                measure.clips(bare, (Track) bare.channel(track.id()), progress).noiseFloorDbfs();
        Figures result = measure.clips(staged, changed, progress);
        return TrimProposals.proposal(
                session, track, noise, result, track.strip().standingDb(Strip.TRIM), gains, reason);
    }
}
