package waterwheel.core.intake;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.NamedSamples;
import waterwheel.core.instruments.Region;
import waterwheel.core.instruments.SampleMap;
import waterwheel.core.instruments.SampleMapFile;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.PlainText;
import waterwheel.core.work.Progress;

/**
 * Takes a sample player's files in.
 *
 * @param sources files that the session gets
 * @param told what was passed over, a sentence each
 */
public record InstrumentImport(Instrument.Sampler instrument, List<AudioSource> sources, List<String> told) {
    public InstrumentImport {
        sources = List.copyOf(sources);
        told = List.copyOf(told);
    }

    /**
     * Takes a map of samples in, or a folder of files that are named by notes.
     *
     * @param folder the session's folder
     * @throws NotesFileException if the map cannot be read, or none of its samples can
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public static InstrumentImport take(Session session, Path folder, Path map, Progress progress)
            throws NotesFileException {
        SampleMap read = Files.isDirectory(map) ? NamedSamples.read(map) : SampleMapFile.read(map);
        FileImport files = new FileImport(folder, session.sampleRateHz(), true, true);
        Set<Path> wanted = read.entries().stream()
                .map(SampleMap.Entry::file)
                .map(Path::normalize)
                .collect(Collectors.toCollection(LinkedHashSet::new));
        Set<SourceId> taken = session.sourceIds();
        Map<Path, AudioSource> sources = new HashMap<>();
        Map<Path, Double> stretched = new HashMap<>();
        List<AudioSource> all = new ArrayList<>();
        List<String> told = new ArrayList<>(read.told());
        int done = 0;
        for (Path file : wanted) {
            progress.check();
            try {
                ImportedFile imported = files.take(file, Progress.NONE).getFirst();
                AudioSource source = imported.source(SourceId.free("sample-" + (taken.size() + 1), taken));
                sources.put(file, source);
                stretched.put(file, (double) source.sampleRateHz() / rate(file));
                all.add(source);
            } catch (AudioFileException e) {
                told.add("The sample " + PlainText.of(String.valueOf(file.getFileName()), 80) + " is missing: "
                        + e.getMessage());
            }
            progress.at((double) ++done / wanted.size());
        }
        List<Region> regions = new ArrayList<>();
        for (SampleMap.Entry entry : read.entries()) {
            Path file = entry.file().normalize();
            AudioSource source = sources.get(file);
            if (source != null) {
                regions.add(entry.region().withSource(source.id()).stretched(stretched.getOrDefault(file, 1.0)));
            }
        }
        if (regions.isEmpty()) {
            throw new NotesFileException(
                    map, "names no sample that can be played.", "Put its samples where it looks for them.", null);
        }
        return new InstrumentImport(new Instrument.Sampler(read.name(), regions), all, told);
    }

    private static int rate(Path file) throws AudioFileException {
        try (AudioFile audio = AudioFiles.open(file)) {
            return audio.format().sampleRateHz();
        }
    }
}
