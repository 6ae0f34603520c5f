package waterwheel.core.audiofile;

import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Some channels of a file as a file of their own, so that a recording of many channels becomes mono tracks or pairs.
 * Closing it closes the file that it was made of.
 *
 * @param source read while this is
 * @param selected indices of the source's channels, in the order wanted
 */
public record SelectedChannels(AudioFile source, List<Integer> selected) implements AudioFile {
    public SelectedChannels {
        selected = List.copyOf(selected);
    }

    /** Each channel as a file of its own. */
    public static List<SelectedChannels> single(AudioFile source) {
        return IntStream.range(0, source.format().channels())
                .mapToObj(c -> new SelectedChannels(source, List.of(c)))
                .toList();
    }

    /** The channels two by two, with the last one alone where their number is odd. */
    public static List<SelectedChannels> pairs(AudioFile source) {
        int channels = source.format().channels();
        return IntStream.range(0, (channels + 1) / 2)
                .mapToObj(pair -> new SelectedChannels(
                        source,
                        IntStream.range(2 * pair, Math.min(channels, 2 * pair + 2))
                                .boxed()
                                .toList()))
                .toList();
    }

    @Override
    public Path path() {
        return source.path();
    }

    @Override
    public AudioFormat format() {
        return source.format().withChannels(selected.size());
    }

    @Override
    public Reader reader(int maxFrames) {
        Reader reader = source.reader(maxFrames);
        float[][] all = new float[source.format().channels()][maxFrames];
        return new Reader() {
            @Override
            public void read(long firstFrame, float[][] planes, int at, int frames) {
                reader.read(firstFrame, all, 0, frames);
                for (int c = 0; c < selected.size(); c++) {
                    System.arraycopy(all[selected.get(c)], 0, planes[c], at, frames);
                }
            }

            @Override
            public long nonFiniteSamples() {
                return reader.nonFiniteSamples();
            }
        };
    }

    @Override
    public void close() {
        source.close();
    }
}
