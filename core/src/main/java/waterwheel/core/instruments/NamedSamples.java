package waterwheel.core.instruments;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.TreeMap;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.SampleLoop;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.units.FileStem;
import waterwheel.core.units.PlainText;

/**
 * Makes a map of a folder of audio files that are named by notes: each key plays the nearest, round and round where a
 * file notes a loop.
 */
public final class NamedSamples {
    private NamedSamples() {}

    /**
     * Looks into a folder.
     *
     * @throws NotesFileException if it cannot be listed, or no file in it is named by a note
     */
    public static SampleMap read(Path folder) throws NotesFileException {
        TreeMap<Integer, Path> byKey = new TreeMap<>();
        List<String> told = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.filter(AudioFiles::looksLikeAudio).sorted().toList()) {
                String name = String.valueOf(file.getFileName());
                OptionalInt key = KeyNames.inside(FileStem.of(file));
                if (key.isEmpty()) {
                    told.add(PlainText.of(name, 80) + " is not named by a note, and was left out.");
                } else if (byKey.putIfAbsent(key.getAsInt(), file) != null) {
                    told.add(PlainText.of(name, 80) + " is named by a note that another file has, and was left out.");
                }
            }
        } catch (IOException e) {
            throw new NotesFileException(folder, "cannot be listed.", "Check that it is there and may be read.", e);
        }
        if (byKey.isEmpty()) {
            throw new NotesFileException(
                    folder, "holds no audio file that is named by a note.", "Name them such as 'Harp C4.wav'.", null);
        }
        List<SampleMap.Entry> entries = new ArrayList<>();
        int low = 0;
        for (Map.Entry<Integer, Path> entry : byKey.entrySet()) {
            Integer after = byKey.higherKey(entry.getKey());
            int high = after == null ? 127 : (entry.getKey() + after) / 2;
            Region region = Region.of(SampleMapFile.UNNAMED, low, high, entry.getKey());
            entries.add(new SampleMap.Entry(
                    entry.getValue(),
                    SampleLoop.of(entry.getValue())
                            .map(loop -> region.withLoop(Region.Loop.CONTINUOUS, loop.first(), loop.end()))
                            .orElse(region)));
            low = high + 1;
        }
        return new SampleMap(PlainText.of(String.valueOf(folder.getFileName()), 60), entries, told);
    }
}
