package waterwheel.core.metering;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import org.jspecify.annotations.Nullable;
import waterwheel.core.work.AsideFile;

/**
 * A measured series as a file that is read where it lies: the system keeps in memory what is used and lets go of the
 * rest, so that many long takes do not fill the heap. Only for this machine's own use; no other program reads it.
 *
 * <p>In the machine's own byte order, which the mark tells: mark, rate, planes, frames (longs); per plane true peak (double) and peak frame (long); then per
 * plane the running sums of energy and of K-weighted energy (doubles); for stereo the products of the sides (doubles);
 * per plane the peaks (floats).
 */
public final class SeriesFile {
    private static final ValueLayout.OfLong LONGS = ValueLayout.JAVA_LONG;
    /** Another number where the layout, or what is measured, becomes another. */
    private static final long MARK = 0x5757_5352_0000_0001L;

    private static final long HEADER_BYTES = 4L * Long.BYTES;
    private static final long PLANE_BYTES = 2L * Long.BYTES;

    private SeriesFile() {}

    /** Where the parts of a file lie. */
    private record Layout(int planes, long steps) {
        long sums(int plane, boolean weighted) {
            return HEADER_BYTES + planes * PLANE_BYTES + (2L * plane + (weighted ? 1 : 0)) * sumsBytes();
        }

        long sumsBytes() {
            return (steps + 1) * Double.BYTES;
        }

        long cross() {
            return sums(planes, false);
        }

        long crossBytes() {
            return planes == 2 ? steps * Double.BYTES : 0;
        }

        long peaks(int plane) {
            return cross() + crossBytes() + plane * peaksBytes();
        }

        long peaksBytes() {
            return steps * Float.BYTES;
        }

        long bytes() {
            return peaks(planes);
        }
    }

    /**
     * Writes a series that covers a whole signal, unchanged by gains.
     *
     * @throws IOException if the disk refuses; nothing is left under the file's name
     */
    public static void write(LevelSeries series, Path file) throws IOException {
        Layout layout = new Layout(series.planes(), series.steps());
        try (Arena arena = Arena.ofConfined()) {
            MemorySegment out = arena.allocate(layout.bytes(), Long.BYTES);
            out.set(LONGS, 0, MARK);
            out.set(LONGS, 8, series.sampleRateHz());
            out.set(LONGS, 16, layout.planes());
            out.set(LONGS, 24, series.frames());
            List<LevelSeries.Plane> planes = series.measuredPlanes();
            for (int p = 0; p < layout.planes(); p++) {
                LevelSeries.Plane plane = planes.get(p);
                out.set(LevelSeries.DOUBLES, HEADER_BYTES + p * PLANE_BYTES, plane.truePeak());
                out.set(LONGS, HEADER_BYTES + p * PLANE_BYTES + Long.BYTES, plane.peakFrame());
                copy(plane.energySums(), out, layout.sums(p, false), layout.sumsBytes());
                copy(plane.weightedSums(), out, layout.sums(p, true), layout.sumsBytes());
                copy(plane.peaks(), out, layout.peaks(p), layout.peaksBytes());
            }
            copy(series.measuredCross(), out, layout.cross(), layout.crossBytes());
            AsideFile.write(file, path -> write(out.asByteBuffer(), path));
        }
    }

    /**
     * Moves a series that covers a whole signal, unchanged by gains, off the heap into a temporary file, which goes with
     * the process at the latest. Where there is no room on the disk it stays where it is.
     */
    public static LevelSeries offHeap(LevelSeries series) {
        try {
            Path file = Files.createTempFile("waterwheel", ".levels");
            try {
                write(series, file);
                LevelSeries mapped = read(file);
                return mapped == null ? series : mapped;
            } finally {
                // What is mapped stays readable, or it is deleted at the end.
                deleteNowOrLater(file);
            }
        } catch (IOException e) {
            return series;
        }
    }

    private static void deleteNowOrLater(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            file.toFile().deleteOnExit();
        }
    }

    private static void write(ByteBuffer bytes, Path path) throws IOException {
        try (FileChannel channel = FileChannel.open(
                path, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
        }
    }

    private static void copy(MemorySegment from, MemorySegment to, long at, long bytes) {
        MemorySegment.copy(from, 0, to, at, bytes);
    }

    /**
     * Maps a series that was written before; it stays readable for as long as it is used, even if the file goes.
     *
     * @return null where there is none, or it is not whole
     */
    public static @Nullable LevelSeries read(Path file) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            MemorySegment in = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), Arena.ofAuto());
            if (in.byteSize() < HEADER_BYTES || in.get(LONGS, 0) != MARK) {
                return null;
            }
            int rate = (int) in.get(LONGS, 8);
            int planeCount = (int) in.get(LONGS, 16);
            long frames = in.get(LONGS, 24);
            if (rate < 1 || frames < 0 || planeCount < 1 || planeCount > 2) {
                return null;
            }
            Layout layout = new Layout(planeCount, Steps.count(frames, rate));
            if (layout.bytes() != in.byteSize()) {
                return null;
            }
            LevelSeries.Plane[] planes = new LevelSeries.Plane[planeCount];
            for (int p = 0; p < planeCount; p++) {
                planes[p] = new LevelSeries.Plane(
                        in.asSlice(layout.peaks(p), layout.peaksBytes()),
                        in.asSlice(layout.sums(p, false), layout.sumsBytes()),
                        in.asSlice(layout.sums(p, true), layout.sumsBytes()),
                        in.get(LevelSeries.DOUBLES, HEADER_BYTES + p * PLANE_BYTES),
                        in.get(LONGS, HEADER_BYTES + p * PLANE_BYTES + Long.BYTES));
            }
            return LevelSeries.measured(rate, frames, planes, in.asSlice(layout.cross(), layout.crossBytes()));
        } catch (IOException | ArithmeticException e) {
            return null;
        }
    }
}
