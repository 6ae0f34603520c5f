package waterwheel.core.stems;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Collectors;
import waterwheel.core.units.Sha256;
import waterwheel.core.work.Team;

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

    /**
     * Returns the checksums of several files, some at a time.
     *
     * @throws IOException if one cannot be read
     */
    static List<String> of(List<Path> files, Team team) throws IOException {
        String[] sums = new String[files.size()];
        try {
            team.run(sums.length, i -> {
                try {
                    sums[i] = of(files.get(i));
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        return List.of(sums);
    }

    /** A line for each file: its checksum, two spaces, its path. */
    static String list(StemResult result) {
        return result.files().stream()
                .map(file -> file.checksum() + "  " + file.path() + "\n")
                .collect(Collectors.joining());
    }
}
