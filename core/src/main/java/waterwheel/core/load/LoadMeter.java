package waterwheel.core.load;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanRun;

/**
 * What the signals of a running plan take of a block's time, by the engine's own clock. One thread takes blocks, which
 * allocates nothing and takes no lock; any thread reads. A row that is written while it is read may be of two blocks: one
 * of {@value #ROWS}.
 */
public final class LoadMeter {
    private static final int ROWS = 256;
    private static final int USUAL_SECONDS = 6;
    private static final int WORST_SECONDS = 10;

    private final Plan plan;
    private final LateBlocks late;
    private final int sampleRateHz;
    /** Every so many blocks one is kept. */
    private final int every;

    private final List<Part> parts;
    /** By signal, and last for what listens, its part. */
    private final int[] partOf;
    /** The last rows, by signal; then what listens; then the whole block. */
    private final float[][] rows;

    private final double[] sums;
    /** The worst of each of the last seconds, by part; last the whole block. */
    private final float[][] worst;

    private final float[] ofParts;
    /** What the sums are of. */
    private long frames;
    /** What tells the seconds; goes on over to another meter. */
    private long clock;

    private long blocks;
    private int second;
    /** Written last, so that who reads it sees the rows before. */
    private volatile int written;

    /**
     * Makes a meter for playing: usual is what the last seconds were.
     *
     * @param late notes blocks that took too long
     */
    public static LoadMeter live(Plan plan, int blockFrames, LateBlocks late) {
        int every = Math.max(1, USUAL_SECONDS * plan.sampleRateHz() / blockFrames / ROWS);
        return new LoadMeter(plan, every, late);
    }

    LoadMeter(Plan plan, int every, LateBlocks late) {
        this.plan = plan;
        this.late = late;
        this.every = every;
        sampleRateHz = plan.sampleRateHz();
        int signals = plan.signals().size();
        Map<Part, Integer> numbers = new LinkedHashMap<>();
        partOf = new int[signals + 1];
        for (int i = 0; i < signals; i++) {
            partOf[i] = number(numbers, Part.of(plan.signals().get(i).id()));
        }
        partOf[signals] = number(numbers, Part.METERS);
        parts = List.copyOf(numbers.keySet());
        rows = new float[ROWS][signals + 2];
        sums = new double[signals + 2];
        worst = new float[WORST_SECONDS][parts.size() + 1];
        ofParts = new float[parts.size()];
    }

    private static int number(Map<Part, Integer> numbers, Part part) {
        Integer known = numbers.putIfAbsent(part, numbers.size());
        return known == null ? numbers.size() - 1 : known;
    }

    /** How long a block lasts, in ns. */
    public long nanos(int count) {
        return count * 1_000_000_000L / sampleRateHz;
    }

    /**
     * Takes a block that was just computed.
     *
     * @param run clocked
     * @param nanos what all of the block took, of which the run is a part
     * @param count its frames
     * @param frame where in the song it begins
     */
    public void take(PlanRun run, long nanos, int count, long frame) {
        long[] spent = run.spent();
        float each = (float) (1.0 / nanos(count));
        float whole = nanos * each;
        int kept = written;
        float[] row = rows[kept % ROWS];
        Arrays.fill(ofParts, 0);
        for (int i = 0; i < spent.length; i++) {
            float share = spent[i] * each;
            row[i] = share;
            sums[i] += share * count;
            ofParts[partOf[i]] += share;
        }
        row[spent.length] = whole;
        sums[spent.length] += whole * count;
        frames += count;
        clock += count;
        noteWorst(whole);
        if (whole > 1) {
            late.note(frame, whole, run.late() < 0 ? Part.METERS : parts.get(partOf[run.late()]));
        }
        blocks++;
        if (blocks % every == 0) {
            written = kept + 1;
        }
    }

    private void noteWorst(float whole) {
        int now = (int) (clock / sampleRateHz % WORST_SECONDS);
        if (now != second) {
            second = now;
            Arrays.fill(worst[now], 0);
        }
        float[] bin = worst[now];
        for (int i = 0; i < ofParts.length; i++) {
            bin[i] = Math.max(bin[i], ofParts[i]);
        }
        bin[ofParts.length] = Math.max(bin[ofParts.length], whole);
    }

    /** Has the whole block's worst go on from another meter's. Before the first block. */
    public void adopt(LoadMeter before) {
        for (int s = 0; s < WORST_SECONDS; s++) {
            worst[s][parts.size()] = before.worst[s][before.parts.size()];
        }
        clock = before.clock;
        second = before.second;
    }

    /** What was taken so far. */
    public Load read() {
        int count = Math.min(written, ROWS);
        float[][] copy = new float[count][];
        for (int i = 0; i < count; i++) {
            copy[i] = rows[i].clone();
        }
        double[] most = new double[parts.size() + 1];
        for (float[] bin : worst) {
            for (int i = 0; i < most.length; i++) {
                most[i] = Math.max(most[i], bin[i]);
            }
        }
        double[] means =
                Arrays.stream(sums).map(sum -> frames == 0 ? 0 : sum / frames).toArray();
        return new Load(plan, parts, partOf, copy, means, most, late.count(), late.last());
    }
}
