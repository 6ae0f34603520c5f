package waterwheel.core.audiofile;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.Stream;
import net.sourceforge.javaflacencoder.FLACOutputStream;

/**
 * Where an encoder that knows no comments writes its stream: a block of comments with Waterwheel's mark and what the file says of itself is put behind the
 * description of the audio (RFC 9639, section 8.6), and what the encoder addresses behind that lies as much further on.
 */
final class FlacTag implements FLACOutputStream, Closeable {
    /** The stream's mark, and its first block with that block's header. */
    private static final int HEAD_BYTES = 4 + 4 + 34;

    /** Never the last block: the encoder puts an empty one behind it. */
    private static final int COMMENTS = 4;

    private final FileChannel file;
    private final byte[] comments;
    private long position;
    private long size;

    FlacTag(Path path, FileTags tags) throws IOException {
        comments = comments(tags);
        file = FileChannel.open(
                path, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
        put(comments, 0, comments.length, HEAD_BYTES);
    }

    private static byte[] comments(FileTags tags) {
        byte[] maker = RenderMark.NAME.getBytes(StandardCharsets.UTF_8);
        // The mark first, where it is looked for.
        List<byte[]> fields = Stream.concat(Stream.of(RenderMark.FLAC_COMMENT), tags.comments().stream())
                .map(field -> field.getBytes(StandardCharsets.UTF_8))
                .toList();
        int length = 4
                + maker.length
                + 4
                + fields.stream().mapToInt(field -> 4 + field.length).sum();
        ByteBuffer block = ByteBuffer.allocate(4 + length);
        block.putInt(COMMENTS << 24 | length).order(ByteOrder.LITTLE_ENDIAN);
        block.putInt(maker.length).put(maker).putInt(fields.size());
        fields.forEach(field -> block.putInt(field.length).put(field));
        return block.array();
    }

    @Override
    public int write(byte[] data, int offset, int count) throws IOException {
        int head = Math.clamp(HEAD_BYTES - position, 0, count);
        put(data, offset, head, position);
        put(data, offset + head, count - head, position + head + comments.length);
        position += count;
        size = Math.max(size, position);
        return count;
    }

    @Override
    public void write(byte data) throws IOException {
        write(new byte[] {data}, 0, 1);
    }

    private void put(byte[] data, int offset, int count, long at) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(data, offset, count);
        while (buffer.hasRemaining()) {
            file.write(buffer, at + buffer.position() - offset);
        }
    }

    @Override
    public long seek(long place) {
        position = place;
        return place;
    }

    @Override
    public long size() {
        return size;
    }

    @Override
    public boolean canSeek() {
        return true;
    }

    @Override
    public long getPos() {
        return position;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
