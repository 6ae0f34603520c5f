package waterwheel.core.stems;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.engine.StemPart;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * What the processors of buses hear of the whole session, computed once and kept for all stems of a render. It takes 8
 * bytes a frame for each such processor, outside the heap; what is beyond the bound is computed again with each stem.
 */
final class SharedGains implements AutoCloseable {
    private static final int BLOCK = 512;

    private final Map<SignalKey, KeptSignal> kept = new HashMap<>();
    private final Media media;

    private SharedGains(Media media) {
        this.media = media;
    }

    /** Nothing is kept. */
    static SharedGains none(Media media) {
        return new SharedGains(media);
    }

    /**
     * Runs the session once, where anything is shared.
     *
     * @param mostBytes how much may be kept
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    static SharedGains of(
            Session session, double tailSeconds, Media media, Team team, long mostBytes, Progress progress) {
        SharedGains made = new SharedGains(media);
        boolean done = false;
        try {
            Plan plan = StemForecast.lasting(PlanCompiler.compile(session, StemPart.ofGains(), 0), tailSeconds);
            made.run(plan, team, mostBytes, progress);
            done = true;
            return made;
        } finally {
            if (!done) {
                made.close();
            }
        }
    }

    private void run(Plan plan, Team team, long mostBytes, Progress progress) {
        BitSet wanted = plan.at(SignalId.Point.SHARED);
        if (wanted.isEmpty()) {
            return;
        }
        // To the end of what is held up longest: a limiter that looks ahead hears what comes after the song.
        long frames = plan.lengthFrames() + plan.mostLatency();
        List<SignalKey> keys = SignalKey.of(plan, media);
        PlanRun run = PlanRun.ofStretch(plan, media, team, BLOCK, wanted);
        long bytes = 0;
        for (int i = wanted.nextSetBit(0); i >= 0; i = wanted.nextSetBit(i + 1)) {
            int planes = plan.signals().get(i).planes();
            bytes += KeptSignal.bytes(planes, frames);
            if (bytes <= mostBytes) {
                KeptSignal room = new KeptSignal(planes, frames);
                kept.put(keys.get(i), room);
                run.keep(i, room);
            }
        }
        run.stretch(0, frames, progress);
    }

    /** A stem's plan with what is kept in place of what would have to be computed. */
    Plan in(Plan plan) {
        if (kept.isEmpty()) {
            return plan;
        }
        List<SignalKey> keys = SignalKey.of(plan, media);
        BitSet shared = plan.at(SignalId.Point.SHARED);
        return plan.withKept(i -> shared.get(i) ? kept.get(keys.get(i)) : null);
    }

    @Override
    public void close() {
        kept.values().forEach(KeptSignal::close);
        kept.clear();
    }
}
