package waterwheel.core.load;

import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.SignalId;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;

/** What everything takes, as shares of the time that a block lasts. Immutable. */
public final class Load {
    private final Plan plan;
    private final float[][] rows;
    private final double[] means;
    private final List<PartLoad> parts;
    private final PartLoad whole;
    private final int lateCount;
    private final List<LateBlock> lateBlocks;

    /**
     * @param partOf by signal, and last for what listens, its part
     * @param rows shares in some blocks, by signal; then what listens; then the whole block
     * @param means the same over all blocks
     * @param worst by part, and last of the whole block
     */
    Load(
            Plan plan,
            List<Part> parts,
            int[] partOf,
            float[][] rows,
            double[] means,
            double[] worst,
            int lateCount,
            List<LateBlock> lateBlocks) {
        this.plan = plan;
        this.rows = rows;
        this.means = means;
        this.lateCount = lateCount;
        this.lateBlocks = List.copyOf(lateBlocks);
        this.parts = IntStream.range(0, parts.size())
                .mapToObj(p -> {
                    BitSet own = new BitSet();
                    IntStream.range(0, partOf.length)
                            .filter(i -> partOf[i] == p)
                            .forEach(own::set);
                    return new PartLoad(parts.get(p), usual(own), mean(own), worst[p]);
                })
                .toList();
        BitSet all = new BitSet();
        all.set(partOf.length);
        whole = new PartLoad(Part.METERS, usual(all), mean(all), worst[parts.size()]);
    }

    /** Whether nothing was measured yet. */
    public boolean empty() {
        return rows.length == 0;
    }

    /** All parts, in the order of the plan. */
    public List<PartLoad> parts() {
        return parts;
    }

    /** The whole block. */
    public PartLoad whole() {
        return whole;
    }

    /** A channel's slot, or with an empty one all else of the channel; empty where it is not in the plan. */
    public Optional<PartLoad> of(ChannelId channel, Optional<SlotId> slot) {
        Part wanted = new Part(Optional.of(channel), slot);
        return parts.stream().filter(one -> one.part().equals(wanted)).findFirst();
    }

    /** What a channel takes with its slots; the worst is that of each added up, which may be of different blocks. */
    public PartLoad of(Channel channel) {
        return parts.stream()
                .filter(one -> one.part().channel().equals(Optional.of(channel.id())))
                .reduce(new PartLoad(new Part(Optional.of(channel.id()), Optional.empty()), 0, 0, 0), PartLoad::with);
    }

    /** What playing a channel's frozen sound takes; 0 where it is not played. */
    public double frozen(ChannelId channel) {
        int signal = plan.find(new SignalId(channel, SignalId.Point.FROZEN));
        BitSet only = new BitSet();
        if (signal >= 0) {
            only.set(signal);
        }
        return usual(only);
    }

    /** How many blocks took longer than they last. */
    public int lateCount() {
        return lateCount;
    }

    /** The last of them, the newest first. */
    public List<LateBlock> lateBlocks() {
        return lateBlocks;
    }

    /** What was running. */
    public Plan plan() {
        return plan;
    }

    /** What some signals take together in most blocks: the median of their sum. */
    public double usual(BitSet signals) {
        double[] sums = Arrays.stream(rows)
                .mapToDouble(row -> signals.stream().mapToDouble(i -> row[i]).sum())
                .sorted()
                .toArray();
        return sums.length == 0 ? 0 : sums[sums.length / 2];
    }

    private double mean(BitSet signals) {
        return signals.stream().mapToDouble(i -> means[i]).sum();
    }
}
