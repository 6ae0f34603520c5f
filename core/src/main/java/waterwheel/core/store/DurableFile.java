package waterwheel.core.store;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import waterwheel.core.work.AsideFile;

/** Writes a file so that at any instant there is the whole old one or the whole new one. */
final class DurableFile {
    private DurableFile() {}

    /** What is done between writing the new file and putting it in the old one's place. */
    interface Between {
        void run() throws IOException;
    }

    /** Writes aside, forces to disk, and moves over the target in one step. */
    static void write(Path target, byte[] bytes, Between between) throws IOException {
        AsideFile.write(target, path -> {
            try (FileChannel channel = FileChannel.open(
                    path, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
                ByteBuffer buffer = ByteBuffer.wrap(bytes);
                while (buffer.hasRemaining()) {
                    channel.write(buffer);
                }
                channel.force(true);
            }
            between.run();
        });
    }
}
