package waterwheel.core.audiofile;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import net.sourceforge.javaflacencoder.FLACOutputStream;

/**
 * Where an encoder that knows no comments writes its stream: a block of comments with Waterwheel's mark is put behind the
 * description of the audio (RFC 9639, section 8.6), and what the encoder addresses behind that lies as much further on.
 */
final class FlacTag implements FLACOutputStream, Closeable {
    /** The stream's mark, and its first block with that block's header. */
    private static final int HEAD_BYTES = 4 + 4 + 34;

    /** Never the last block: the encoder puts an empty one behind it. */
    private static final int COMMENTS = 4;

    private final FileChannel file;
    private final byte[] comments = comments();
    private long position;
    private long size;

    FlacTag(Path path) throws IOException {
        file = FileChannel.open(
                path, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
        put(comments, 0, comments.length, HEAD_BYTES);
    }

    private static byte[] comments() {
        byte[] maker = RenderMark.NAME.getBytes(StandardCharsets.UTF_8);
        byte[] field = RenderMark.FLAC_COMMENT.getBytes(StandardCharsets.UTF_8);
        int length = 4 + maker.length + 4 + 4 + field.length;
        ByteBuffer block = ByteBuffer.allocate(4 + length);
        block.putInt(COMMENTS << 24 | length).order(ByteOrder.LITTLE_ENDIAN);
        block.putInt(maker.length).put(maker).putInt(1).putInt(field.length).put(field);
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
