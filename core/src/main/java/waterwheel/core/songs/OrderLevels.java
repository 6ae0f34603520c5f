package waterwheel.core.songs;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Target;

/**
 * Songs against the target.
 *
 * @param order the running order that the rows are true of
 * @param rows in the running order's order
 */
public record OrderLevels(RunningOrder order, List<SongRow> rows) {
    public OrderLevels {
        rows = List.copyOf(rows);
    }

    /**
     * How a part of a song stands.
     *
     * @param level over the whole song, or over the section that was asked for
     * @param offLu its loudness minus its target, in LU; negative infinity for silence; NaN where it has no target
     * @param overGuard whether its true peak is above the guard
     */
    public record Cell(Level level, double offLu, boolean overGuard) {
        /** How near it is to its target; empty where it has none. */
        public Optional<Target.Nearness> nearness(Target target) {
            return Double.isNaN(offLu) ? Optional.empty() : Optional.of(target.nearness(offLu));
        }
    }

    /** What of these levels is true of another state of the running order for certain; the rest is pending. */
    public OrderLevels of(RunningOrder other) {
        boolean alike = other.names().equals(order.names()) && cues(other).equals(cues(order));
        Map<Song, SongRow> known = new HashMap<>();
        rows.forEach(row -> known.put(row.song(), row));
        return new OrderLevels(
                other,
                other.songs().stream()
                        .map(song -> alike ? known.getOrDefault(song, SongRow.pending(song)) : SongRow.pending(song))
                        .toList());
    }

    /** Nothing known yet. */
    public static OrderLevels pending(RunningOrder order) {
        return new OrderLevels(
                order, order.songs().stream().map(SongRow::pending).toList());
    }

    private static List<String> cues(RunningOrder order) {
        return order.parts().stream().filter(Part::cue).map(Part::name).sorted().toList();
    }

    /** The parts that any song has, or whose settings are known, in the order of the screen. */
    public List<Part> parts() {
        Set<String> there = new LinkedHashSet<>();
        rows.forEach(row -> row.known().ifPresent(levels -> levels.parts().forEach(part -> there.add(part.name()))));
        List<Part> parts = new ArrayList<>();
        order.parts().stream().filter(part -> there.remove(part.name())).forEach(parts::add);
        there.forEach(name -> parts.add(order.part(name)));
        // Cues stand behind what is judged.
        parts.sort(Comparator.comparing(Part::cue));
        return parts;
    }

    /**
     * How a part of a song stands.
     *
     * @param section its name; empty for the whole song
     * @return empty where the song has no such part or section, or is not measured
     */
    public Optional<Cell> cell(SongRow row, String part, String section) {
        return row.known()
                .flatMap(levels -> levels.part(part))
                .flatMap(levels -> cell(row.known().orElseThrow(), levels, section, judged(levels)));
    }

    /** How the sum of a song's parts stands; likewise. */
    public Optional<Cell> sum(SongRow row, String section) {
        return row.known()
                .flatMap(levels ->
                        cell(levels, levels.sum(), section, order.target().goal() == Target.Goal.SUM));
    }

    private boolean judged(PartLevels levels) {
        return order.target().goal() == Target.Goal.PARTS && !levels.cue();
    }

    private Optional<Cell> cell(SongLevels song, PartLevels levels, String section, boolean judged) {
        Level level = levels.whole();
        if (!section.isEmpty()) {
            int at = song.sections().indexOf(section);
            if (at < 0) {
                return Optional.empty();
            }
            level = levels.sections().get(at);
        }
        double target = levels.name().isEmpty() ? order.target().lufs() : order.targetLufs(levels.name());
        return Optional.of(new Cell(
                level,
                judged ? level.integratedLufs() - target : Double.NaN,
                level.truePeakDbtp() > order.target().guardDbtp()));
    }

    /** How far the worst of a song's cells is from its target, in LU; infinite where one is silent or not known. */
    public double worstLu(SongRow row, String section) {
        SongLevels levels = row.levels();
        if (levels == null) {
            return Double.POSITIVE_INFINITY;
        }
        double worst = 0;
        for (PartLevels part : levels.parts()) {
            worst = Math.max(worst, far(cell(row, part.name(), section)));
        }
        return Math.max(worst, far(sum(row, section)));
    }

    private static double far(Optional<Cell> cell) {
        return cell.map(Cell::offLu)
                .filter(off -> !Double.isNaN(off))
                .map(Math::abs)
                .orElse(0.0);
    }

    /** The rows with the one first that is furthest off. */
    public List<SongRow> byDistance(String section) {
        Map<SongRow, Double> far = new HashMap<>();
        rows.forEach(row -> far.put(row, worstLu(row, section)));
        return rows.stream()
                .sorted(Comparator.comparing((SongRow row) -> -Objects.requireNonNull(far.get(row))))
                .toList();
    }

    /** Parts that most songs have and a song has not. */
    public List<String> lacking(SongRow row) {
        if (row.levels() == null) {
            return List.of();
        }
        long known = rows.stream().filter(one -> one.levels() != null).count();
        List<String> lacking = new ArrayList<>();
        for (Part part : parts()) {
            long have = rows.stream()
                    .filter(one -> one.known()
                            .flatMap(levels -> levels.part(part.name()))
                            .isPresent())
                    .count();
            if (2 * have > known && row.levels().part(part.name()).isEmpty()) {
                lacking.add(part.name());
            }
        }
        return lacking;
    }

    /** Everything worth knowing of a song, a sentence each: its own faults, and how it differs from the others. */
    public List<String> sentences(SongRow row) {
        List<String> sentences = new ArrayList<>(row.sentences());
        for (String part : lacking(row)) {
            sentences.add("It has no " + part + ", as most songs have.");
        }
        SongLevels levels = row.levels();
        int common = commonRate();
        if (levels != null && levels.sampleRateHz() != common) {
            sentences.add("It runs at " + levels.sampleRateHz() + " Hz, most songs at " + common + " Hz.");
        }
        return sentences;
    }

    private int commonRate() {
        Map<Integer, Integer> counts = new HashMap<>();
        rows.forEach(row -> row.known().ifPresent(levels -> counts.merge(levels.sampleRateHz(), 1, Integer::sum)));
        return counts.entrySet().stream()
                .max(Map.Entry.<Integer, Integer>comparingByValue().thenComparing(Map.Entry.comparingByKey()))
                .map(Map.Entry::getKey)
                .orElse(0);
    }

    /** Sections that any song has, in the order in which they are met. */
    public List<String> sections() {
        Set<String> names = new LinkedHashSet<>();
        rows.forEach(row -> row.known().ifPresent(levels -> names.addAll(levels.sections())));
        return List.copyOf(names);
    }
}
