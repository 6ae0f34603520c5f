package waterwheel.core.stems;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.stream.Collectors;
import waterwheel.core.units.Sha256;

/** SHA-256 of whole files, and the list of them that is delivered, in the form that common tools check. */
public final class Checksums {
    private static final int CHUNK = 1 << 20;

    private Checksums() {}

    /**
     * Returns a file's checksum as lower-case hexadecimal digits.
     *
     * @throws IOException if it cannot be read
     */
    public static String of(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            MessageDigest digest = Sha256.start();
            ByteBuffer chunk = ByteBuffer.allocate(CHUNK);
            while (channel.read(chunk) >= 0) {
                digest.update(chunk.flip());
                chunk.clear();
            }
            return HexFormat.of().formatHex(digest.digest());
        }
    }

    /** A line for each file: its checksum, two spaces, its path. */
    static String list(StemResult result) {
        return result.files().stream()
                .map(file -> file.checksum() + "  " + file.path() + "\n")
                .collect(Collectors.joining());
    }
}
