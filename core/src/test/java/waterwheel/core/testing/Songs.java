package waterwheel.core.testing;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.songs.OrderLevels;
import waterwheel.core.songs.OrderMeasurement;
import waterwheel.core.songs.OrderPlace;
import waterwheel.core.store.OrderFile;
import waterwheel.core.work.Progress;

/** Builds small running orders, with their songs in a folder. */
public final class Songs {
    public static final int RATE = 48_000;
    public static final double SECONDS = 4;

    private final Path folder;
    private RunningOrder order = RunningOrder.empty("Evening");

    public Songs(Path folder) {
        this.folder = folder;
    }

    /** A sine of 997 Hz, whose loudness on both sides is its peak level: -20 dBFS are -20.0 LUFS (BS.1770). */
    public static float[] tone(double peakDbfs) {
        return Signals.sine(997, peakDbfs, RATE, SECONDS);
    }

    public Songs song(String title) throws Exception {
        Files.createDirectories(folder.resolve(title));
        order = order.withSong(title, title);
        return this;
    }

    /** A stem of the last song. */
    public Songs stem(String name, float[]... planes) throws Exception {
        return stem(name, RATE, SampleEncoding.FLOAT_32, planes);
    }

    public Songs stem(String name, int rate, SampleEncoding encoding, float[]... planes) throws Exception {
        Signals.wav(folder.resolve(order.songs().getLast().path()).resolve(name + ".wav"), rate, encoding, planes);
        return this;
    }

    public RunningOrder order() {
        return order;
    }

    public OrderPlace place() {
        return place(folder);
    }

    public static OrderPlace place(Path folder) {
        return new OrderPlace(folder.resolve("order.json"));
    }

    /** Saves the running order where its songs lie. */
    public Songs saved() throws Exception {
        OrderFile.save(order, place().file());
        return this;
    }

    public static OrderLevels measured(RunningOrder order, OrderPlace place) {
        return OrderMeasurement.of(order, place, true, row -> {}, Progress.NONE);
    }

    /** The integrated loudness of a part of a song; of its sum where no part is named. */
    public static double lufs(OrderLevels levels, String song, String part) {
        return levels.rows().stream()
                .filter(row -> row.song().id().equals(new SongId(song)))
                .flatMap(row -> (part.isEmpty() ? levels.sum(row, "") : levels.cell(row, part, "")).stream())
                .map(cell -> cell.level().integratedLufs())
                .findFirst()
                .orElseThrow();
    }

    public static List<SongId> ids(RunningOrder order) {
        return order.songs().stream().map(Song::id).toList();
    }
}
