package waterwheel.core.engine;

import org.jspecify.annotations.Nullable;
import waterwheel.core.processing.Effect;
import waterwheel.core.processing.Moves;
import waterwheel.core.processing.SlotEffect;

/**
 * A slot whose settings move in time: at control points it is told what they are at the next one, and goes there in
 * straight lines; where a curve jumps, within 240 frames. One thread at a time; allocates nothing while it runs.
 */
final class RiddenEffect implements Effect {
    private static final int SPARE = 32;

    private final SlotEffect slot;
    private final float[][] part;
    private final float[][] keyPart;
    private InsertRides rides;
    private long frame;
    /** The frame at which it was told last where to go, and the one at which it is told again. */
    private long since;

    private long told;

    /** What is told over a block, of a slot that follows; more than the grid and some points are told one by one. */
    private final @Nullable Moves moves;

    /** The song's frames at which the goals of a block are reached. */
    private final long[] goals;
    /** The control points around a block. */
    private final long[] around;

    /** Whether the gains must be told although no ride moves them. */
    private boolean gainsAsked;

    RiddenEffect(SlotEffect slot, InsertRides rides, int planes, int maxFrames) {
        this.slot = slot;
        this.rides = rides;
        goals = new long[slot.follows() ? maxFrames / ControlPoints.GRID + SPARE : 0];
        around = new long[goals.length + 1];
        moves = slot.follows() ? new Moves(goals.length, rides.parameters()) : null;
        part = new float[planes][MotionReader.CROSSING];
        keyPart = new float[planes][MotionReader.CROSSING];
        seek(0);
    }

    /** Goes over to other rides of the same insert, within some frames. */
    void use(InsertRides other, int frames) {
        if (rides.areOf(other)) {
            return;
        }
        rides = other;
        gainsAsked = true;
        tell(frame + frames);
    }

    /** Has everything go to where it is at a frame. */
    private void tell(long at) {
        int frames = (int) (at - frame);
        slot.move(rides.values(at, true), frames);
        if (rides.movesGains() || gainsAsked) {
            slot.moveGains(rides.wet(at, true), rides.dry(at, true), frames);
            gainsAsked = false;
        }
        since = frame;
        told = at;
    }

    @Override
    public int latencyFrames() {
        return slot.latencyFrames();
    }

    @Override
    public void process(float[][] signal, float @Nullable [] @Nullable [] key, int frames) {
        if (moves != null && !rides.movesGains() && !gainsAsked && scripted(moves, frames)) {
            slot.follow(signal, key, frames, moves);
            frame += frames;
            return;
        }
        int done = 0;
        while (done < frames) {
            if (frame >= told || rides.jumpsAt(frame)) {
                tell(rides.jumpsAt(frame) ? frame + MotionReader.CROSSING : rides.next(frame));
            }
            int count = (int) Math.min(frames - done, Math.min(told, rides.next(frame)) - frame);
            run(signal, key, done, count);
            done += count;
            frame += count;
        }
    }

    /** Writes down what is told over a block; false, and as if nothing had been, where there is no room for it. */
    private boolean scripted(Moves script, int frames) {
        script.begin(rides.moved());
        long toldBefore = told;
        long sinceBefore = since;
        boolean plain = told <= frame && !rides.jumpIn(frame, frame + frames);
        boolean written = plain ? plain(script, frames) : each(script, frames);
        if (!written) {
            told = toldBefore;
            since = sinceBefore;
            return false;
        }
        rides.write(goals, script);
        return true;
    }

    /** Of a block in which nothing jumps, nor is on its way from a jump: from each control point to the next. */
    private boolean plain(Moves script, int frames) {
        int count = rides.points(frame, frame + frames, around);
        if (count > goals.length || around[count] < frame + frames) {
            return false;
        }
        for (int k = 0; k < count; k++) {
            since = Math.max(frame, around[k]);
            told = around[k + 1];
            goals[k] = told;
            script.add((int) (since - frame), (int) (told - since));
        }
        return true;
    }

    private boolean each(Moves script, int frames) {
        long end = frame + frames;
        long next = frame;
        for (long at = frame; at < end; at = Math.min(told, next)) {
            next = rides.next(at);
            boolean jumps = rides.jumpsAt(at);
            if (at >= told || jumps) {
                long goal = jumps ? at + MotionReader.CROSSING : next;
                if (!script.add((int) (at - frame), (int) (goal - at))) {
                    return false;
                }
                goals[script.count() - 1] = goal;
                since = at;
                told = goal;
            }
        }
        return true;
    }

    private void run(float[][] signal, float @Nullable [] @Nullable [] key, int first, int count) {
        for (int p = 0; p < signal.length; p++) {
            System.arraycopy(signal[p], first, part[p], 0, count);
            float[] heard = key == null ? null : key[p];
            if (heard != null) {
                System.arraycopy(heard, first, keyPart[p], 0, count);
            }
        }
        slot.process(part, key == null ? null : keyPart, count);
        for (int p = 0; p < signal.length; p++) {
            System.arraycopy(part[p], 0, signal[p], first, count);
        }
    }

    @Override
    public void move(double[] values, int frames) {
        throw new IllegalStateException("insert: ridden (expected: to be moved by its rides)");
    }

    @Override
    public void reset() {
        slot.reset();
    }

    @Override
    public void seek(long songFrame) {
        frame = songFrame;
        since = songFrame;
        told = songFrame;
        slot.move(rides.values(songFrame, false), 0);
        slot.moveGains(rides.wet(songFrame, false), rides.dry(songFrame, false), 0);
        slot.seek(songFrame);
    }

    @Override
    public long memoryBytes() {
        return slot.memoryBytes();
    }

    @Override
    public void adopt(Effect other) {
        if (other instanceof RiddenEffect ridden) {
            slot.adopt(ridden.slot);
            frame = ridden.frame;
            since = ridden.since;
            told = ridden.told;
        } else {
            slot.adopt(other);
        }
    }

    /** Whether where its settings are follows from the rides: not on the way from a jump. */
    boolean rebuilds() {
        return told - since <= ControlPoints.GRID && !rides.jumpsAt(since);
    }

    /**
     * Goes on from where another stands that has had the same rides so far: settings go from where they were told last to
     * where the other has come to, as they did there.
     */
    void goOn(RiddenEffect other) {
        seek(other.since);
        int frames = (int) (other.frame - other.since);
        process(new float[part.length][frames], null, frames);
        slot.adopt(other.slot);
    }

    @Override
    public double reductionDb() {
        return slot.reductionDb();
    }
}
