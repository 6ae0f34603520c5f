package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.Signal;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Processors;

/**
 * A plan with what measuring asks of its signals again and again, found out once in a time that grows with their number.
 *
 * @param keys of the signals
 * @param worthKeeping the buses, ends of inserts and instruments that feed another sum: whatever changes beside them there
 *     wants their samples again
 * @param details what is gathered of each signal
 * @param follows by signal the one that it is a mere gain or a delay of, so that its level follows; {@link #NONE} where it
 *     must be measured
 * @param ends by signal the song's frame from which on it is silent
 */
record KeyedPlan(
        Plan plan,
        List<SignalKey> keys,
        BitSet worthKeeping,
        List<Detail> details,
        List<Integer> follows,
        List<Long> ends) {
    static final int NONE = -1;

    /**
     * Looks at a plan.
     *
     * @param most what is gathered of files, of the mix, and on both sides of inserts that are compared
     * @param least what is gathered of the rest
     */
    static KeyedPlan of(Plan plan, Media media, Detail most, Detail least) {
        return of(plan, SignalKey.of(plan, media), worthKeeping(plan), most, least, heard(plan), plan.soundEnds());
    }

    private static KeyedPlan of(
            Plan plan,
            List<SignalKey> keys,
            BitSet worthKeeping,
            Detail most,
            Detail least,
            BitSet heard,
            List<Long> ends) {
        List<Detail> details = new ArrayList<>();
        List<Integer> follows = new ArrayList<>();
        for (int i = 0; i < plan.signals().size(); i++) {
            Signal signal = plan.signals().get(i);
            details.add(heard.get(i) ? most : least);
            List<Signal.Edge> open = openInputs(signal);
            int from = open.isEmpty() ? NONE : open.getFirst().from();
            boolean gain = signal instanceof Signal.Delayed
                    || (signal instanceof Signal.Sum
                            && open.size() == 1
                            && !open.getFirst().gain().mixes());
            // Where more is gathered of a signal than of the one that it is a gain of, it must be measured itself.
            boolean less = from != NONE && details.get(from).compareTo(details.get(i)) < 0;
            follows.add(gain && !less ? from : NONE);
        }
        return new KeyedPlan(plan, keys, worthKeeping, details, follows, ends);
    }

    /** The same plan with as much gathered of some signals as of those of which most is. */
    KeyedPlan asking(BitSet asked, Detail most, Detail least) {
        BitSet heard = heard(plan);
        heard.or(asked);
        return of(plan, keys, worthKeeping, most, least, heard, ends);
    }

    /**
     * The signals whose loudness is shown: what tracks play, what inserts get and make of it where the two compare, and the
     * mix.
     */
    private static BitSet heard(Plan plan) {
        BitSet heard = new BitSet();
        for (int i = 0; i < plan.signals().size(); i++) {
            Signal signal = plan.signals().get(i);
            heard.set(i, signal instanceof Signal.Source);
            if (signal.id().point() == SignalId.Point.OUTPUT) {
                heard.set(i);
                // It is shown by what it is a gain of.
                plan.stage(signal.id().channel(), Stage.OUTPUT, "")
                        .ifPresent(place -> heard.set(place.edge().from()));
            }
        }
        plan.stages().forEach(places -> {
            int before = NONE;
            for (Plan.Place place : places) {
                int from = place.edge().from();
                switch (place.stage()) {
                    case SOURCE, CLIPS -> heard.set(from);
                    case INSERT -> {
                        if (compares(plan.signals().get(from))) {
                            heard.set(before);
                            heard.set(from);
                        }
                    }
                    default -> {}
                }
                // What a hardware slot sends and gets back lies inside it.
                before = place.stage() == Stage.SENT || place.stage() == Stage.RETURNED ? before : from;
            }
        });
        return heard;
    }

    private static boolean compares(Signal inserted) {
        return !(inserted instanceof Signal.Processed processed)
                || !Processors.of(processed.insert().processor().kind()).replaces();
    }

    private static BitSet worthKeeping(Plan plan) {
        BitSet feedsSum = new BitSet();
        for (Signal signal : plan.signals()) {
            if (signal instanceof Signal.Sum && signal.inputs().size() > 1) {
                signal.inputs().forEach(edge -> feedsSum.set(edge.from()));
            }
        }
        // A gain that moves and a delay are computed faster than they are read, so what is before them is kept instead.
        for (int i = plan.signals().size() - 1; i >= 0; i--) {
            Signal signal = plan.signals().get(i);
            if (feedsSum.get(i) && (signal instanceof Signal.Ridden || signal instanceof Signal.Delayed)) {
                feedsSum.set(signal.inputs().getFirst().from());
            }
        }
        BitSet worth = new BitSet();
        feedsSum.stream().forEach(i -> {
            Signal signal = plan.signals().get(i);
            SignalId.Point point = signal.id().point();
            boolean dear = signal instanceof Signal.Played || point == SignalId.Point.INSERT;
            worth.set(i, dear || point == SignalId.Point.INPUT);
        });
        return worth;
    }

    /** What reaches a signal through gains that are not 0. */
    static List<Signal.Edge> openInputs(Signal signal) {
        return signal.inputs().stream().filter(edge -> !edge.gain().silent()).toList();
    }

    /**
     * A series that was measured in a song of perhaps another length, as it is in this one; null where that does not
     * follow, because the sound or the filters' memory of it went on to an end.
     */
    @Nullable
    LevelSeries fitting(int index, @Nullable LevelSeries known) {
        long length = plan.lengthFrames();
        if (known == null || known.frames() == length) {
            return known;
        }
        long settled = plan.sampleRateHz();
        boolean over = ends.get(index) <= Math.min(length, known.frames()) - settled;
        return over ? known.withLength(length) : null;
    }

    Signal signal(int index) {
        return plan.signals().get(index);
    }

    SignalKey key(int index) {
        return keys.get(index);
    }

    Detail detail(int index) {
        return details.get(index);
    }
}
