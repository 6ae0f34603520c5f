package waterwheel.core.testing;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** WAV files whose sampler chunk notes a loop, laid out by the chunks' own description. */
public final class NotedLoops {
    /** Where the chunk stands. */
    public enum Place {
        BEFORE_THE_DATA,
        BEHIND_THE_DATA,
        BEHIND_LONG_DATA
    }

    private NotedLoops() {}

    /**
     * Writes 16-bit mono samples at 48 kHz.
     *
     * @param kind of the loop: 0 forwards
     * @param loop first and last frame of it; none for a chunk without loops
     */
    public static Path write(Path file, Place place, int kind, List<Integer> loop) throws IOException {
        byte[] format = chunk("fmt ", 16, b -> b.putShort((short) 1)
                .putShort((short) 1)
                .putInt(48_000)
                .putInt(96_000)
                .putShort((short) 2)
                .putShort((short) 16));
        byte[] sampler = chunk("smpl", 36 + 12 * loop.size(), b -> {
            for (int i = 0; i < 7; i++) {
                b.putInt(100 + i);
            }
            b.putInt(loop.size() / 2).putInt(0);
            if (!loop.isEmpty()) {
                b.putInt(9)
                        .putInt(kind)
                        .putInt(loop.get(0))
                        .putInt(loop.get(1))
                        .putInt(0)
                        .putInt(0);
            }
        });
        byte[] data = chunk("data", 2_000, b -> {});
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        switch (place) {
            case BEFORE_THE_DATA -> out.writeBytes(joined(header("RIFF"), format, sampler, data));
            case BEHIND_THE_DATA -> out.writeBytes(joined(header("RIFF"), format, data, sampler));
            case BEHIND_LONG_DATA -> {
                byte[] sizes = chunk("ds64", 28, b -> b.putLong(4_000).putLong(2_000));
                // The length is said in the chunk of sizes alone.
                ByteBuffer.wrap(data).order(ByteOrder.LITTLE_ENDIAN).putInt(4, -1);
                out.writeBytes(joined(header("RF64"), sizes, format, data, sampler));
            }
        }
        return Files.write(file, out.toByteArray());
    }

    private interface Filling {
        void fill(ByteBuffer body);
    }

    private static byte[] chunk(String id, int bytes, Filling filling) {
        ByteBuffer chunk = ByteBuffer.allocate(8 + bytes).order(ByteOrder.LITTLE_ENDIAN);
        chunk.put(id.getBytes(StandardCharsets.US_ASCII)).putInt(bytes);
        filling.fill(chunk);
        return chunk.array();
    }

    private static byte[] header(String form) {
        ByteBuffer header = ByteBuffer.allocate(12).order(ByteOrder.LITTLE_ENDIAN);
        header.put(form.getBytes(StandardCharsets.US_ASCII))
                .putInt(4_000)
                .put("WAVE".getBytes(StandardCharsets.US_ASCII));
        return header.array();
    }

    private static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            out.writeBytes(part);
        }
        return out.toByteArray();
    }
}
