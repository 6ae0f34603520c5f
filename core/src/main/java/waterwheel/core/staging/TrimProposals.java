package waterwheel.core.staging;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.staging.TrimProposal.Reason;

/**
 * Proposed trims or clip gains, at most one a track. Cues, silent tracks and tracks whose levels are pending get none.
 *
 * @param session the session that they were made for
 * @param list in session order
 */
public record TrimProposals(Session session, List<TrimProposal> list) {
    /** Trims are proposed in steps that a hand would set. */
    private static final double STEPS_PER_DB = 10;

    private static final double HAIR_DB = 0.002;

    public TrimProposals {
        list = List.copyOf(list);
    }

    /** No proposals. */
    public static TrimProposals none(Session session) {
        return new TrimProposals(session, List.of());
    }

    /**
     * Proposes trims.
     *
     * @param levels measured levels of the session
     * @param channels which tracks are staged; others are left out
     */
    public static TrimProposals of(SessionLevels levels, Set<ChannelId> channels, Aim aim) {
        Session session = levels.session();
        Map<Track, Figures> sources = new LinkedHashMap<>();
        for (Track track : session.tracks()) {
            levels.of(track.id())
                    .filter(known -> channels.contains(track.id())
                            && !track.cue()
                            && levels.played(track)
                            && !known.beforeTrim().silent())
                    .ifPresent(known -> sources.put(track, known.beforeTrim()));
        }
        List<TrimProposal> list = new ArrayList<>();
        if (aim.together()) {
            double change = commonChangeDb(session, sources, aim);
            sources.forEach((track, source) -> {
                // Hundredths, because a trim may have been typed so, and the same change for all keeps the balance.
                double trim = Math.rint((track.strip().standingDb(Strip.TRIM) + change) * 100) / 100;
                list.add(proposal(session, track, source, trim, Reason.BALANCE));
            });
        } else {
            sources.forEach((track, source) -> {
                Wanted wanted = wanted(session, track, source, aim);
                list.add(proposal(session, track, source, wanted.trimDb(), wanted.reason()));
            });
        }
        return new TrimProposals(session, list);
    }

    /** A trim for what a track's trim gets, and what decided it. */
    record Wanted(double trimDb, Reason reason) {}

    /** The trim that brings a signal with these figures before the trim to the aim. */
    static Wanted wanted(Session session, Track track, Figures source, Aim aim) {
        StagingTargets targets = session.staging();
        double asItIs = track.strip().standingDb(Strip.TRIM);
        Wanted wanted =
                switch (aim.goal()) {
                    // What is too short or too soft for a loudness has none to bring anywhere.
                    case Aim.Loudness(double lufs) ->
                        new Wanted(by(lufs, source.integratedLufs(), asItIs), Reason.LOUDNESS);
                    case Aim.Peak(double dbfs) -> new Wanted(dbfs - source.samplePeakDbfs(), Reason.PEAK);
                    case Aim.ByKind() ->
                        switch (track.kind()) {
                            case SUSTAINED ->
                                new Wanted(
                                        by(session.referenceDbfs(track), source.averageDbfs(), asItIs), Reason.AVERAGE);
                            case PERCUSSIVE ->
                                new Wanted(targets.percussivePeakDbfs() - source.samplePeakDbfs(), Reason.PEAK);
                            case CUE ->
                                throw new IllegalArgumentException("track: '" + track.id() + "' (expected: no cue)");
                        };
                };
        double most = targets.guardPeakDbfs() - source.samplePeakDbfs();
        double rounded = Math.rint(wanted.trimDb() * STEPS_PER_DB) / STEPS_PER_DB;
        if (rounded > most + HAIR_DB) {
            // Down to the step below, because a guard that a rounding passes is none.
            rounded = stepBelow(most);
        }
        wanted = new Wanted(rounded, wanted.trimDb() > most ? Reason.GUARD : wanted.reason());
        double limited = Math.clamp(wanted.trimDb(), -Strip.TRIM_LIMIT_DB, Strip.TRIM_LIMIT_DB);
        return limited == wanted.trimDb() ? wanted : new Wanted(limited, Reason.RANGE);
    }

    /** The gain from one level to another; what has none stays as it is. */
    private static double by(double goal, double level, double otherwise) {
        return Double.isFinite(level) ? goal - level : otherwise;
    }

    /** The largest gain in whole steps that takes no track past its own target or its trim's range. */
    private static double commonChangeDb(Session session, Map<Track, Figures> sources, Aim aim) {
        double change = Double.POSITIVE_INFINITY;
        double least = Double.NEGATIVE_INFINITY;
        for (Map.Entry<Track, Figures> entry : sources.entrySet()) {
            double present = entry.getKey().strip().standingDb(Strip.TRIM);
            change = Math.min(
                    change,
                    wanted(session, entry.getKey(), entry.getValue(), aim).trimDb() - present);
            least = Math.max(least, -Strip.TRIM_LIMIT_DB - present);
        }
        return Math.max(stepBelow(change), least);
    }

    /** Down to a whole step; a value that a file's own rounding put a hair below a step is on it. */
    static double stepBelow(double db) {
        return Math.floor((db + HAIR_DB) * STEPS_PER_DB) / STEPS_PER_DB;
    }

    private static TrimProposal proposal(Session session, Track track, Figures source, double trim, Reason reason) {
        return proposal(session, track, source.noiseFloorDbfs(), source, trim, List.of(), reason);
    }

    /**
     * A proposal with what would result.
     *
     * @param noiseBefore noise floor of the files, before any gain, dBFS
     * @param source what the trim would get
     */
    static TrimProposal proposal(
            Session session,
            Track track,
            double noiseBefore,
            Figures source,
            double trim,
            List<Double> clipGainsDb,
            Reason reason) {
        double threshold = session.staging().noiseFloorDbfs();
        double floor = source.noiseFloorDbfs() + trim;
        return new TrimProposal(
                track.id(),
                track.strip().standingDb(Strip.TRIM),
                trim,
                clipGainsDb,
                reason,
                source.averageDbfs() + trim,
                source.samplePeakDbfs() + trim,
                floor,
                noiseBefore <= threshold && floor > threshold);
    }

    /** The proposal for a channel. */
    public Optional<TrimProposal> of(ChannelId channel) {
        return list.stream().filter(p -> p.channel().equals(channel)).findFirst();
    }

    public boolean isEmpty() {
        return list.isEmpty();
    }

    /** The proposals for some channels only. */
    public TrimProposals only(Set<ChannelId> channels) {
        return new TrimProposals(
                session,
                list.stream().filter(p -> channels.contains(p.channel())).toList());
    }

    /** The proposals for the other channels. */
    public TrimProposals without(Set<ChannelId> channels) {
        return new TrimProposals(
                session,
                list.stream().filter(p -> !channels.contains(p.channel())).toList());
    }

    /** All of them as one undo step. */
    public Edit edit() {
        if (list.stream().anyMatch(p -> !p.clipGainsDb().isEmpty())) {
            Map<ChannelId, List<Double>> gains = new LinkedHashMap<>();
            list.forEach(p -> gains.put(p.channel(), p.clipGainsDb()));
            return ClipEdits.gains(gains);
        }
        if (list.size() == 1) {
            TrimProposal one = list.getFirst();
            return Edits.trim(session.channel(one.channel()), one.proposedDb());
        }
        Map<ChannelId, Double> trims = new LinkedHashMap<>();
        list.forEach(p -> trims.put(p.channel(), p.proposedDb()));
        return Edits.trims(trims);
    }
}
