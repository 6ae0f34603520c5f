package waterwheel.core.songs;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures the songs of a running order, those that are not known already. One thread at a time. */
public final class OrderMeasurement {
    private final OrderPlace place;
    private final FiguresCache cache;
    private final SongReader reader;
    /** What was read or measured, so that it is not read again; as many as there are songs, and then some. */
    private final Map<String, SongLevels> held = new LinkedHashMap<>(16, 0.75f, true);
    /** Why states of songs could not be measured, so that it is not tried again until they change. */
    private final Map<String, String> refused = new HashMap<>();

    public OrderMeasurement(OrderPlace place) {
        this.place = place;
        cache = new FiguresCache(place.figures());
        reader = new SongReader(place);
    }

    /** What is known of a song without measuring it. */
    public SongRow known(Song song, RunningOrder order) {
        try {
            String stamp = reader.look(song, order).stamp();
            return find(stamp, order)
                    .map(levels -> new SongRow(song, levels, ""))
                    .orElseGet(() -> new SongRow(song, null, refused.getOrDefault(stamp, "")));
        } catch (WaterwheelException e) {
            return new SongRow(song, null, String.valueOf(e.getMessage()));
        }
    }

    private Optional<SongLevels> find(String stamp, RunningOrder order) {
        SongLevels known = held.get(stamp);
        if (known != null) {
            return Optional.of(known);
        }
        Optional<SongLevels> read = cache.find(stamp);
        read.ifPresent(levels -> hold(levels, order));
        return read;
    }

    /** Those that were asked for last stay: undo finds them again. */
    private void hold(SongLevels levels, RunningOrder order) {
        held.put(levels.stamp(), levels);
        while (held.size() > 2 * order.songs().size() + 2) {
            held.remove(held.keySet().iterator().next());
        }
    }

    /** Whether figures are still those of the song as it lies on the disk. */
    boolean holds(SongRow row, RunningOrder order) {
        try {
            String stamp = reader.look(row.song(), order).stamp();
            SongLevels levels = row.levels();
            return levels == null
                    ? !row.problem().isEmpty() && row.problem().equals(refused.get(stamp))
                    : levels.stamp().equals(stamp);
        } catch (WaterwheelException e) {
            return row.problem().equals(e.getMessage());
        }
    }

    /**
     * What a song measures, from before where that still holds.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public SongRow measured(Song song, RunningOrder order, Team team, Progress progress) {
        String stamp = "";
        try {
            SongReader.Look seen = reader.look(song, order);
            stamp = seen.stamp();
            SongReader.Look look = reader.ready(seen, order, progress.part(0, 0.5));
            SongLevels levels = find(look.stamp(), order).orElse(null);
            if (levels == null) {
                levels = SongMeasurement.of(look, order, place, team, progress.part(0.5, 1));
                cache.keep(levels);
                hold(levels, order);
            }
            return new SongRow(song, levels, "");
        } catch (WaterwheelException e) {
            String problem = String.valueOf(e.getMessage());
            refused.put(stamp, problem);
            return new SongRow(song, null, problem);
        }
    }

    /**
     * Measures songs.
     *
     * @param all whether these are all that there are, so that what is kept of others can go
     * @param done gets each row as soon as it is there
     */
    public static OrderLevels of(
            RunningOrder order, OrderPlace place, boolean all, Consumer<SongRow> done, Progress progress) {
        OrderMeasurement measurement = new OrderMeasurement(place);
        List<SongRow> rows = new ArrayList<>();
        try (Team team = Team.ofAllProcessors()) {
            for (Song song : order.songs()) {
                progress.check();
                double share = 1.0 / order.songs().size();
                SongRow row = measurement.measured(
                        song, order, team, progress.part(rows.size() * share, (rows.size() + 1) * share));
                rows.add(row);
                done.accept(row);
            }
        }
        OrderLevels levels = new OrderLevels(order, rows);
        if (all) {
            measurement.sweep(levels);
        }
        return levels;
    }

    /** Forgets figures that are true of no song any more; keeps all while songs are pending. */
    void sweep(OrderLevels levels) {
        if (levels.rows().stream().allMatch(row -> row.levels() != null)) {
            Set<String> stamps = levels.rows().stream()
                    .flatMap(row -> row.known().stream())
                    .map(SongLevels::stamp)
                    .collect(Collectors.toSet());
            cache.keepOnly(stamps);
        }
    }
}
