package waterwheel.core.audiofile;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.units.SongLength;

/** A file of plain samples in mapped memory: WAV with its long forms, AIFF, AIFF-C. */
final class PcmFile implements AudioFile {
    private final Path path;
    private final Arena arena;
    private final MemorySegment samples;
    private final PcmLayout layout;

    private PcmFile(Path path, Arena arena, PcmLayout layout, MemorySegment file) {
        this.path = path;
        this.arena = arena;
        this.layout = layout;
        AudioFormat format = layout.format();
        this.samples = file.asSlice(
                layout.dataOffset(),
                format.frames() * format.channels() * format.encoding().bytes());
    }

    /** How a file's header is read. */
    interface Header {
        PcmLayout parse(Path path, MemorySegment file) throws AudioFileException;
    }

    /** Opens a file of any of the formats, told by its first bytes. */
    static PcmFile open(Path path) throws IOException, AudioFileException {
        return open(path, (name, file) -> {
            if (WavHeader.recognises(file)) {
                return WavHeader.parse(name, file);
            }
            if (AiffHeader.recognises(file)) {
                return AiffHeader.parse(name, file);
            }
            throw new AudioFileException(
                    name, "is not an audio file that Waterwheel reads.", "Export it as WAV, AIFF or FLAC.");
        });
    }

    static PcmFile open(Path path, Header header) throws IOException, AudioFileException {
        Arena arena = Arena.ofShared();
        try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            MemorySegment file = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), arena);
            PcmLayout layout = header.parse(path, file);
            if (layout.format().seconds() > SongLength.MOST_SECONDS) {
                throw PcmLayout.tooLong(path);
            }
            return new PcmFile(path, arena, layout, file);
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
        return layout.format();
    }

    @Override
    public Reader reader(int maxFrames) {
        return new SampleDecoder(layout, samples);
    }

    @Override
    public void release(long firstFrame, long frames) {
        long frame =
                (long) layout.format().channels() * layout.format().encoding().bytes();
        if (frames > 0) {
            samples.asSlice(firstFrame * frame, frames * frame).unload();
        }
    }

    @Override
    public void close() {
        arena.close();
    }
}
