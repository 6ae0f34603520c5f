package waterwheel.core.songs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.intake.FileImport;
import waterwheel.core.order.Song;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/**
 * The files of a song as the engine plays them: from where they lie, or converted.
 *
 * @param notes what was met on the way, a sentence each
 * @param refused files that cannot be used, a sentence each
 */
record SongSources(int sampleRateHz, List<Stem> files, List<String> notes, List<String> refused) {
    SongSources {
        files = List.copyOf(files);
        notes = List.copyOf(notes);
        refused = List.copyOf(refused);
    }

    /** A file with the part that it is in. */
    record Stem(AudioSource source, String name, String part) {}

    /**
     * Looks into a song's files.
     *
     * @param in which parts are wanted
     * @throws WaterwheelException if no file of them can be read
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    static SongSources of(Song song, SongFiles files, OrderPlace place, Predicate<String> in, Progress progress)
            throws WaterwheelException {
        List<String> notes = new ArrayList<>();
        List<String> refused = new ArrayList<>();
        int rate = rate(files, notes);
        List<Stem> stems = new ArrayList<>();
        for (SongFiles.Stem stem : files.stems()) {
            progress.check();
            if (in.test(stem.part())) {
                try {
                    add(stem, rate, place, progress, notes, stems);
                } catch (AudioFileException e) {
                    refused.add(String.valueOf(e.getMessage()));
                }
            }
        }
        if (stems.isEmpty()) {
            throw new SessionFileException(
                    refused.isEmpty()
                            ? song.title() + " has none of these parts."
                            : "None of the files of " + song.title() + " can be used: " + refused.getFirst(),
                    "Put files there that can be read, or choose other parts.");
        }
        return new SongSources(rate, stems, notes, refused);
    }

    private static int rate(SongFiles files, List<String> notes) {
        Map<Integer, Integer> counts = new LinkedHashMap<>();
        files.stems().forEach(stem -> AudioFiles.sampleRateHz(stem.file())
                .ifPresent(found -> counts.merge(found, 1, Integer::sum)));
        int rate = counts.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse(48_000);
        if (counts.size() > 1) {
            notes.add("Its files run at unlike rates; they are converted to " + rate + " Hz.");
        }
        return rate;
    }

    private static void add(
            SongFiles.Stem stem, int rate, OrderPlace place, Progress progress, List<String> notes, List<Stem> stems)
            throws AudioFileException {
        try (AudioFile file = AudioFiles.open(stem.file())) {
            AudioFormat format = file.format();
            if (format.frames() == 0) {
                throw new AudioFileException(stem.file(), "holds no audio.", "Leave it out.");
            }
            if (AudioFiles.playedDirectly(file) && format.channels() <= 2 && format.sampleRateHz() == rate) {
                stems.add(new Stem(source(stem.file(), format, stems), stem.name(), stem.part()));
                return;
            }
        }
        List<Path> converted = converted(stem.file(), rate, place, progress);
        for (Path file : converted) {
            try (AudioFile audio = AudioFiles.open(file)) {
                stems.add(new Stem(source(file, audio.format(), stems), stem.name(), stem.part()));
            }
        }
        if (converted.size() > 1) {
            notes.add(stem.file().getFileName() + " has more than two channels, which are heard together.");
        }
    }

    private static AudioSource source(Path file, AudioFormat format, List<Stem> before) {
        return new AudioSource(
                new SourceId("f" + (before.size() + 1)),
                file.toAbsolutePath().normalize().toString(),
                format.frames(),
                format.channels(),
                format.sampleRateHz(),
                format.encoding().label());
    }

    /** What a file that cannot be played from where it lies becomes, made once for each state of it. */
    private static List<Path> converted(Path file, int rate, OrderPlace place, Progress progress)
            throws AudioFileException {
        Path done = place.converted().resolve(SongStamp.hex(SongStamp.ofFile(file) + "|" + rate));
        try {
            if (!Files.isDirectory(done)) {
                Files.createDirectories(place.converted());
                Leftovers.sweep(place.converted());
                Path making = Leftovers.name(place.converted(), "converting");
                new FileImport(making, rate, false, true).take(file, progress);
                Files.move(making, done);
            }
            try (Stream<Path> inside = Files.list(done.resolve("audio"))) {
                return inside.filter(AudioFiles::looksLikeAudio).sorted().toList();
            }
        } catch (IOException e) {
            throw new AudioFileException(
                    file,
                    "cannot be converted: " + e.getMessage() + ".",
                    "Check the space on the running order's disk.",
                    e);
        }
    }
}
