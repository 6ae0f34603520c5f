package waterwheel.core.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.ResampledFile;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.SelectedChannels;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.sources.Flattening;
import waterwheel.core.units.FileStem;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.JointProgress;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Brings audio files into a session's folder. What the engine plays directly (WAV and AIFF, mono or stereo, at the
 * session's rate) is copied byte for byte, or linked. Anything else is converted into a WAV file beside it: FLAC without
 * loss, other rates by {@link ResampledFile} into float, more than two channels into mono files or pairs. The original
 * of a converted file is kept.
 */
public final class FileImport {
    /** Where the session keeps its audio. */
    private static final String AUDIO = "audio";
    /** Where the originals of converted files are kept. */
    private static final String ORIGINALS = AUDIO + "/originals";

    private static final int BLOCK = 1 << 14;

    private final Path folder;
    private final int rate;
    private final boolean copy;
    private final boolean pairs;
    private final Set<Path> promised = new HashSet<>();
    private final Leftovers.@Nullable Making making;

    /**
     * Makes an import.
     *
     * @param folder the session's folder
     * @param sampleRateHz the session's rate
     * @param copy whether files are copied; otherwise those that are played directly stay where they are
     * @param pairs whether a file of more than two channels becomes stereo files, with a mono one where a channel is
     *     left over; otherwise each channel becomes a mono file
     */
    public FileImport(Path folder, int sampleRateHz, boolean copy, boolean pairs) {
        this(folder, sampleRateHz, copy, pairs, null);
    }

    /**
     * Makes an import whose files go again unless all that they are part of is made.
     *
     * @param making is told of every file before it is made
     */
    public FileImport(Path folder, int sampleRateHz, boolean copy, boolean pairs, Leftovers.@Nullable Making making) {
        this.making = making;
        this.folder = folder;
        this.rate = sampleRateHz;
        this.copy = copy;
        this.pairs = pairs;
    }

    /**
     * What came of taking files in.
     *
     * @param split how many of the files named hold more than two channels and became several files
     * @param wide those of them whose channels have known places, measured as a whole
     * @param refused files that could not be taken, each with its sentence
     */
    public record Taken(List<ImportedFile> files, int split, List<WideFile> wide, List<AudioFileException> refused) {
        public Taken {
            files = List.copyOf(files);
            wide = List.copyOf(wide);
            refused = List.copyOf(refused);
        }
    }

    /**
     * The files named, and in place of folders the audio files in them, sorted by name.
     *
     * @throws SessionFileException if a folder cannot be listed
     */
    public static List<Path> withoutFolders(List<Path> named) throws SessionFileException {
        List<Path> all = new ArrayList<>();
        for (Path file : named) {
            if (!Files.isDirectory(file)) {
                all.add(file);
                continue;
            }
            try (Stream<Path> inside = Files.list(file)) {
                inside.filter(AudioFiles::looksLikeAudio)
                        .sorted(NaturalOrder.byName())
                        .forEach(all::add);
            } catch (IOException e) {
                throw new SessionFileException(
                        file + " cannot be listed: " + e.getMessage() + ".", "Check that you may read it.", e);
            }
        }
        return all;
    }

    /**
     * Takes files in, several at a time; one that cannot be taken does not keep the others out.
     *
     * @return what was taken, in the order of the files
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    public Taken takeAll(List<Path> files, Progress progress) {
        Leftovers.sweep(folder.resolve(AUDIO));
        Leftovers.sweep(folder.resolve(ORIGINALS));
        JointProgress joint = new JointProgress(progress, files.size());
        List<List<ImportedFile>> taken = new ArrayList<>(Collections.nCopies(files.size(), List.of()));
        List<@Nullable WideFile> wide = new ArrayList<>(Collections.nCopies(files.size(), null));
        List<@Nullable AudioFileException> refused = new ArrayList<>(Collections.nCopies(files.size(), null));
        try (Team team = Team.ofAllProcessors()) {
            // Each task writes its own places of the lists alone.
            team.run(files.size(), i -> {
                Progress part = joint.part(i);
                part.check();
                try {
                    taken.set(i, take(files.get(i), part.part(0, 0.9)));
                    if (taken.get(i).size() > 1) {
                        wide.set(i, wide(files.get(i), part.part(0.9, 1)));
                    }
                } catch (AudioFileException e) {
                    refused.set(i, e);
                }
                part.at(1);
            });
        }
        return new Taken(
                taken.stream().flatMap(List::stream).toList(),
                (int) taken.stream().filter(parts -> parts.size() > 1).count(),
                wide.stream().filter(Objects::nonNull).toList(),
                refused.stream().filter(Objects::nonNull).toList());
    }

    private static @Nullable WideFile wide(Path file, Progress progress) throws AudioFileException {
        try (AudioFile audio = AudioFiles.open(file)) {
            return audio.format().speakers().isEmpty() ? null : WideFile.of(audio, progress);
        }
    }

    /**
     * Takes one file in.
     *
     * @return one file, or several of a file with more than two channels
     * @throws AudioFileException if it cannot be read, or what it becomes cannot be written; nothing is left behind
     * @throws java.util.concurrent.CancellationException if the progress says stop; likewise
     */
    public List<ImportedFile> take(Path file, Progress progress) throws AudioFileException {
        try (AudioFile audio = AudioFiles.open(file)) {
            AudioFormat format = audio.format();
            if (format.frames() == 0) {
                throw new AudioFileException(file, "holds no audio.", "Leave it out.");
            }
            if (AudioFiles.playedDirectly(audio) && format.channels() <= 2 && format.sampleRateHz() == rate) {
                String path = copy
                        ? copied(file, AUDIO)
                        : file.toAbsolutePath().normalize().toString();
                return List.of(
                        ImportedFile.of(folder.resolve(path), path, format, FileStem.of(file), Optional.empty()));
            }
            return converted(file, parts(audio), progress);
        } catch (IOException e) {
            throw cannotTake(file, e);
        }
    }

    /** What is taken of a file: all of it, or its channels one by one or two by two. */
    private List<? extends AudioFile> parts(AudioFile audio) {
        if (audio.format().channels() <= 2) {
            return List.of(audio);
        }
        return pairs ? SelectedChannels.pairs(audio) : SelectedChannels.single(audio);
    }

    /**
     * What a conversion to float would hide: samples that were flattened in a fixed-point file.
     *
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    private Optional<Flattening> flattening(AudioFile original, Progress progress) {
        AudioFormat format = original.format();
        boolean hidden = format.encoding().fixedPoint()
                && (format.sampleRateHz() != rate || format.encoding() == SampleEncoding.PCM_32);
        if (!hidden) {
            return Optional.empty();
        }
        return FileFacts.of(original, progress).flattening();
    }

    /** Writes all parts, or none. */
    private List<ImportedFile> converted(Path file, List<? extends AudioFile> parts, Progress progress)
            throws AudioFileException, IOException {
        List<ImportedFile> taken = new ArrayList<>();
        boolean whole = false;
        try {
            for (int i = 0; i < parts.size(); i++) {
                String name = parts.size() == 1 ? FileStem.of(file) : FileStem.of(file) + " " + (i + 1);
                Progress part = progress.part((double) i / parts.size(), (i + 1.0) / parts.size());
                AudioFile original = parts.get(i);
                Optional<Flattening> lost = flattening(original, part.part(0, 0.2));
                AudioFile wanted =
                        original.format().sampleRateHz() == rate ? original : new ResampledFile(original, rate);
                taken.add(write(wanted, name, lost, part.part(0.2, 1)));
            }
            if (copy) {
                copied(file, ORIGINALS);
            }
            whole = true;
            return taken;
        } finally {
            if (!whole) {
                for (ImportedFile one : taken) {
                    Files.deleteIfExists(folder.resolve(one.path()));
                }
            }
        }
    }

    /**
     * Writes an open file as a WAV file into the session's audio folder.
     *
     * @param name the new file's name, without ending; a number is added where it is taken
     * @throws AudioFileException if the disk refuses; nothing is left behind
     */
    public ImportedFile write(AudioFile audio, String name, Progress progress) throws AudioFileException {
        return write(audio, name, Optional.empty(), progress);
    }

    private ImportedFile write(AudioFile audio, String name, Optional<Flattening> lost, Progress progress)
            throws AudioFileException {
        AudioFormat format = audio.format();
        SampleEncoding encoding =
                switch (format.encoding()) {
                    case PCM_8, PCM_16 -> SampleEncoding.PCM_16;
                    case PCM_24 -> SampleEncoding.PCM_24;
                    case PCM_32, FLOAT_32, FLOAT_64 -> SampleEncoding.FLOAT_32;
                };
        Path target;
        try {
            target = free(Files.createDirectories(folder.resolve(AUDIO)), name, ".wav");
        } catch (IOException e) {
            throw cannotTake(audio.path(), e);
        }
        try (WavWriter writer =
                WavWriter.createExact(target, format.channels(), format.sampleRateHz(), encoding, format.frames())) {
            AudioFile.Reader reader = audio.reader(BLOCK);
            float[][] block = new float[format.channels()][BLOCK];
            for (long at = 0; at < format.frames(); at += BLOCK) {
                progress.check();
                int count = (int) Math.min(BLOCK, format.frames() - at);
                reader.read(at, block, 0, count);
                writer.write(block, 0, count);
                progress.at((double) at / format.frames());
            }
            writer.finish();
        }
        try {
            return ImportedFile.of(
                    target, AUDIO + "/" + target.getFileName(), format.withEncoding(encoding), name, lost);
        } catch (IOException e) {
            throw cannotTake(audio.path(), e);
        }
    }

    private AudioFileException cannotTake(Path file, IOException e) {
        return new AudioFileException(
                file,
                "cannot be taken into " + folder + ": " + e.getMessage() + ".",
                "Check the folder's rights and the space on the disk.",
                e);
    }

    private String copied(Path file, String into) throws IOException {
        Path to = Files.createDirectories(folder.resolve(into));
        String fileName = String.valueOf(file.getFileName());
        Path same = to.resolve(fileName);
        if (Files.exists(same) && Files.isSameFile(same, file)) {
            return into + "/" + fileName;
        }
        int dot = fileName.lastIndexOf('.');
        Path target = free(to, FileStem.of(file), dot > 0 ? fileName.substring(dot) : "");
        AsideFile.write(target, path -> Files.copy(file, path, StandardCopyOption.REPLACE_EXISTING));
        return into + "/" + target.getFileName();
    }

    /** A name that no file has, nor one that is being written beside this. */
    private synchronized Path free(Path folder, String name, String ending) throws IOException {
        Path target = folder.resolve(name + ending);
        for (int i = 2; Files.exists(target) || !promised.add(target); i++) {
            target = folder.resolve(name + " " + i + ending);
        }
        if (making != null) {
            making.making(target);
        }
        return target;
    }
}
