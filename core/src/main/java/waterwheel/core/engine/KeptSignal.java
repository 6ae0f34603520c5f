package waterwheel.core.engine;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * A whole song's samples of one signal, kept outside the Java heap in a temporary file that vanishes with it, so that
 * memory does not grow with the song. Writers of different planes or ranges may be different threads.
 */
public final class KeptSignal implements AutoCloseable {
    private final Arena arena = Arena.ofShared();
    private final MemorySegment samples;
    private final long frames;

    public KeptSignal(int planes, long frames) {
        this.frames = frames;
        try {
            Path file = Files.createTempFile("waterwheel", ".signal");
            try (FileChannel channel = FileChannel.open(
                    file, StandardOpenOption.READ, StandardOpenOption.WRITE, StandardOpenOption.DELETE_ON_CLOSE)) {
                samples = channel.map(FileChannel.MapMode.READ_WRITE, 0, Math.max(1, planes * frames * 4), arena);
            }
        } catch (IOException e) {
            arena.close();
            throw new UncheckedIOException("No room for a temporary file of " + planes * frames * 4 + " bytes", e);
        }
    }

    void write(int plane, long firstFrame, float[] from, int count) {
        MemorySegment.copy(from, 0, samples, ValueLayout.JAVA_FLOAT, offset(plane, firstFrame), count);
    }

    void read(int plane, long firstFrame, float[] to, int count) {
        MemorySegment.copy(samples, ValueLayout.JAVA_FLOAT, offset(plane, firstFrame), to, 0, count);
    }

    private long offset(int plane, long frame) {
        return (plane * frames + frame) * Float.BYTES;
    }

    @Override
    public void close() {
        arena.close();
    }
}
