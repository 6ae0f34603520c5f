package waterwheel.core.audiofile;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HexFormat;
import waterwheel.core.units.Sha256;

/**
 * Tells a file by what it holds, whatever it is called and wherever it lies: SHA-256 of its length and of three stretches
 * of it, at its beginning, middle and end. Reading all of a hundred long takes would keep the disk busy for minutes, and
 * two recordings that agree in these places agree everywhere.
 */
public final class ContentHash {
    private static final int STRETCH = 1 << 20;
    private static final int STRETCHES = 3;

    private ContentHash() {}

    /**
     * Returns the hash as lower-case hexadecimal digits.
     *
     * @throws IOException if the file cannot be read
     */
    public static String of(Path file) throws IOException {
        MessageDigest digest = Sha256.start();
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            long size = channel.size();
            digest.update(ByteBuffer.allocate(Long.BYTES).putLong(size).flip());
            if (size <= (long) STRETCHES * STRETCH) {
                add(digest, channel, 0, (int) size);
            } else {
                for (int i = 0; i < STRETCHES; i++) {
                    add(digest, channel, (size - STRETCH) * i / (STRETCHES - 1), STRETCH);
                }
            }
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    private static void add(MessageDigest digest, FileChannel channel, long from, int bytes) throws IOException {
        ByteBuffer buffer = ByteBuffer.allocate(bytes);
        while (buffer.hasRemaining() && channel.read(buffer, from + buffer.position()) >= 0) {
            // Until it is full or the file ends.
        }
        digest.update(buffer.flip());
    }
}
