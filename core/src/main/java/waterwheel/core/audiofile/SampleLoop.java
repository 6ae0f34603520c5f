package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/**
 * Where a sample goes round while it is held, as a WAV file itself notes it in its sampler chunk (Microsoft, New
 * Multimedia Data Types and Data Techniques, 1994).
 *
 * @param first frame of the loop
 * @param end the frame after its last one
 */
public record SampleLoop(long first, long end) {
    /** Place of the number of loops in the chunk, and of the first loop. */
    private static final int COUNT = 28;

    private static final int LOOP = 36;
    private static final int LOOP_BYTES = 24;
    /** The kind of a loop that goes round forwards; others go back and forth. */
    private static final int FORWARDS = 0;

    /** The first loop that a file notes, where it goes forwards; empty also for a file that cannot be read. */
    public static Optional<SampleLoop> of(Path path) {
        try {
            return WavHeader.<Optional<SampleLoop>, RuntimeException>read(
                    path, Optional.empty(), file -> WavHeader.chunk(file, "smpl")
                            .flatMap(SampleLoop::noted));
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    private static Optional<SampleLoop> noted(FileBytes chunk) {
        if (!chunk.holds(LOOP, LOOP_BYTES)
                || chunk.unsignedInt(COUNT) == 0
                || chunk.unsignedInt(LOOP + 4) != FORWARDS) {
            return Optional.empty();
        }
        // The chunk names the last frame that is played.
        SampleLoop loop = new SampleLoop(chunk.unsignedInt(LOOP + 8), chunk.unsignedInt(LOOP + 12) + 1);
        return Optional.of(loop).filter(it -> it.first() < it.end());
    }
}
