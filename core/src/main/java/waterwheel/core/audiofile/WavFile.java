package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import waterwheel.core.errors.AudioFileException;

/** A WAV file in mapped memory. */
final class WavFile implements AudioFile {
    private final Path path;
    private final Arena arena;
    private final MemorySegment samples;
    private final AudioFormat format;

    private WavFile(Path path, Arena arena, WavHeader header, MemorySegment file) {
        this.path = path;
        this.arena = arena;
        this.format = header.format();
        this.samples = file.asSlice(
                header.dataOffset(),
                format.frames() * format.channels() * format.encoding().bytes());
    }

    static WavFile open(Path path) throws IOException, AudioFileException {
        Arena arena = Arena.ofShared();
        try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            MemorySegment file = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            return new WavFile(path, arena, WavHeader.parse(path, file), file);
        } catch (IOException | AudioFileException | RuntimeException e) {
            arena.close();
            throw e;
        }
    }

    @Override
    public Path path() {
        return path;
    }

    @Override
    public AudioFormat format() {
        return format;
    }

    @Override
    public Reader reader(int maxFrames) {
        SampleDecoder decoder = new SampleDecoder(format.encoding(), samples, maxFrames * format.channels());
        int channels = format.channels();
        return (firstFrame, planes, at, frames) -> {
            if (channels == 1) {
                decoder.decode(firstFrame, planes[0], at, frames);
            } else {
                decoder.decodePairs(firstFrame, planes[0], planes[1], at, frames);
            }
        };
    }

    @Override
    public void close() {
        arena.close();
    }
}
