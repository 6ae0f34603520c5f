package waterwheel.core.songs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.intake.NaturalOrder;
import waterwheel.core.intake.TrackNames;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.stems.RenderedStem;
import waterwheel.core.stems.StemResult;
import waterwheel.core.units.FileStem;

/**
 * The stems of a song as they lie on the disk; no file is opened.
 *
 * @param stems those that are in a part, in the order of their names
 */
record SongFiles(List<Stem> stems) {
    /** The part of a song that is a single mix. */
    private static final String MIX = "Mix";

    SongFiles {
        stems = List.copyOf(stems);
    }

    /**
     * One stem.
     *
     * @param name as a person would say it
     */
    record Stem(Path file, String name, String part) {}

    /**
     * The stems of a folder of files, or of one file.
     *
     * @throws SessionFileException if there is none
     */
    static SongFiles in(Path song, RunningOrder order) throws SessionFileException {
        if (Files.isRegularFile(song)) {
            if (!AudioFiles.looksLikeAudio(song)) {
                throw new SessionFileException(song + " is no WAV, AIFF or FLAC file.", "Name one, or a folder.");
            }
            return new SongFiles(List.of(new Stem(song, FileStem.of(song), MIX)));
        }
        if (!Files.isDirectory(song)) {
            throw new SessionFileException(song + " is not there.", "Put the song back, or take it out.");
        }
        List<RenderedStem> rendered = RenderedStem.in(song);
        List<Stem> stems = rendered.isEmpty() ? listed(song, order) : stems(rendered, order);
        if (stems.isEmpty()) {
            throw new SessionFileException(
                    song + " holds no WAV, AIFF or FLAC file.", "Put the song's files there, or take it out.");
        }
        return new SongFiles(stems);
    }

    private static List<Stem> stems(List<RenderedStem> rendered, RunningOrder order) {
        return rendered.stream()
                .filter(one -> one.role() != StemResult.Role.MIX)
                .map(one -> new Stem(one.file(), one.name(), order.partOf(one.name())))
                .filter(stem -> !stem.part().equals(RunningOrder.LEFT_OUT))
                .toList();
    }

    private static List<Stem> listed(Path folder, RunningOrder order) throws SessionFileException {
        List<Path> files;
        try (Stream<Path> inside = Files.list(folder)) {
            files = inside.filter(AudioFiles::looksLikeAudio)
                    .filter(Files::isRegularFile)
                    .sorted(NaturalOrder.byName())
                    .toList();
        } catch (IOException e) {
            throw new SessionFileException(
                    folder + " cannot be listed: " + e.getMessage() + ".", "Check that you may read it.", e);
        }
        List<String> names = TrackNames.of(files.stream().map(FileStem::of).toList());
        List<Stem> stems = new ArrayList<>();
        for (int i = 0; i < files.size(); i++) {
            stems.add(new Stem(files.get(i), names.get(i), order.partOf(names.get(i))));
        }
        List<Stem> in = stems.stream()
                .filter(stem -> !stem.part().equals(RunningOrder.LEFT_OUT))
                .toList();
        // Of a song that is nothing but a mix, that is what it has.
        return in.isEmpty()
                ? stems.stream()
                        .map(stem -> new Stem(stem.file(), stem.name(), MIX))
                        .toList()
                : in;
    }
}
