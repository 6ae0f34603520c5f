package waterwheel.core.store;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.intake.FileImport;
import waterwheel.core.intake.ImportedFile;
import waterwheel.core.intake.KindProposal;
import waterwheel.core.intake.TrackNames;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.SongLength;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/**
 * Makes a session of audio files: one track a file, named and judged by what its file is
 * called, all to the main bus, all gains 0 dB.
 */
public final class NewSession {
    private NewSession() {}

    /**
     * What a new session is made with.
     *
     * @param sampleRateHz the session's rate, or empty for the rate that most files have
     * @param copy whether files are copied into the folder; otherwise they stay where they are and are linked
     * @param timeReferences whether Broadcast Wave files are placed by their time references, the earliest at the
     *     song's beginning; otherwise every file begins there
     * @param pairs whether files of more than two channels become stereo tracks; otherwise mono ones
     */
    public record Options(
            OptionalInt sampleRateHz,
            PanLaw panLaw,
            double nominalDbfs,
            boolean copy,
            boolean timeReferences,
            boolean pairs) {
        /** Most files' rate, -3 dB, -18 dBFS, copied, all from the beginning, mono. */
        public static final Options DEFAULT = new Options(OptionalInt.empty(), PanLaw.MINUS_3, -18, true, false, false);
    }

    /**
     * A new session.
     *
     * @param loaded the session as it lies in its folder
     * @param refused files that could not be taken, each with its sentence; the session does without them
     */
    public record Made(SessionFolder.Loaded loaded, List<AudioFileException> refused) {
        public Made {
            refused = List.copyOf(refused);
        }

        public Session session() {
            return loaded.session();
        }
    }

    /**
     * Makes and saves a session.
     *
     * @param files audio files, and folders whose audio files are taken, sorted by name
     * @throws SessionFileException if the folder holds a session already, no file can be used, or the disk refuses
     * @throws java.util.concurrent.CancellationException if the progress says stop; no session is left
     */
    public static Made make(Path folder, List<Path> files, Options options, Progress progress)
            throws SessionFileException {
        if (SessionFolder.isSession(folder)) {
            throw new SessionFileException(folder + " already holds a session.", "Choose another folder.");
        }
        List<Path> all = FileImport.withoutFolders(files);
        int rate = options.sampleRateHz().orElseGet(() -> commonRate(all));
        try {
            Files.createDirectories(folder);
            Leftovers.sweep(folder);
            try (Leftovers.Making making = new Leftovers.Making(folder)) {
                Made made = make(folder, all, rate, options, making, progress);
                making.done();
                return made;
            }
        } catch (IOException e) {
            throw new SessionFileException(
                    "The session cannot be made in " + folder + ": " + e.getMessage() + ".",
                    "Check the folder's rights and the space on the disk, or choose another folder.",
                    e);
        }
    }

    /** Makes the session's files, and the session last. */
    private static Made make(
            Path folder, List<Path> all, int rate, Options options, Leftovers.Making making, Progress progress)
            throws SessionFileException {
        FileImport.Taken taken =
                new FileImport(folder, rate, options.copy(), options.pairs(), making).takeAll(all, progress);
        if (taken.files().isEmpty()) {
            throw new SessionFileException(
                    taken.refused().isEmpty()
                            ? "There is no audio file here to make a session of."
                            : "None of the files can be used: "
                                    + taken.refused().getFirst().getMessage(),
                    "Name WAV, AIFF or FLAC files, or folders that hold some.");
        }
        if (options.timeReferences()) {
            refuseBeyond(taken.files(), rate);
        }
        Session session = assemble(folder, taken.files(), rate, options);
        SessionFolder.save(session, folder);
        return new Made(SessionFolder.load(folder), taken.refused());
    }

    /** The earliest time reference; files without one have no say, and begin with the song. */
    private static long earliest(List<ImportedFile> files) {
        return files.stream()
                .flatMapToLong(f -> f.format().timeReferenceFrames().stream())
                .min()
                .orElse(0);
    }

    /** A file whose time reference would make the song longer than any. */
    private static void refuseBeyond(List<ImportedFile> files, int rate) throws SessionFileException {
        long earliest = earliest(files);
        for (ImportedFile file : files) {
            long start = file.format().timeReferenceFrames().orElse(earliest) - earliest;
            if (start > SongLength.mostFrames(rate) - file.format().frames()) {
                throw new SessionFileException(
                        file.name() + " states a time reference " + start / rate / 3_600
                                + " hours after the earliest file's, and a song lasts at most "
                                + SongLength.MOST_SECONDS / 3_600 + " hours.",
                        "Make the session without time references, or leave the file out.");
            }
        }
    }

    /** The rate that most files have; those that cannot be read have no say. */
    private static int commonRate(List<Path> files) {
        Map<Integer, Integer> counts = new LinkedHashMap<>();
        for (Path file : files) {
            AudioFiles.sampleRateHz(file).ifPresent(rate -> counts.merge(rate, 1, Integer::sum));
        }
        return counts.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse(48_000);
    }

    private static Session assemble(Path folder, List<ImportedFile> files, int rate, Options options) {
        ChannelId main = new ChannelId("main");
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> channels = new ArrayList<>();
        List<String> names =
                TrackNames.of(files.stream().map(ImportedFile::name).toList());
        long earliest = earliest(files);
        for (int i = 0; i < files.size(); i++) {
            ImportedFile file = files.get(i);
            AudioFormat format = file.format();
            SourceId source = new SourceId("s" + (i + 1));
            sources.add(file.source(source));
            long start = options.timeReferences() ? format.timeReferenceFrames().orElse(earliest) - earliest : 0;
            channels.add(new Track(
                    new ChannelId("t" + (i + 1)),
                    names.get(i),
                    KindProposal.of(names.get(i), OptionalDouble.empty()),
                    format.channels(),
                    List.of(new Clip(source, start, 0, format.frames(), 0)),
                    Strip.unity(Output.to(main))));
        }
        channels.add(new Bus(main, "Main", Strip.unity(new Output.Nowhere())));
        String title = String.valueOf(folder.toAbsolutePath().normalize().getFileName());
        return new Session(title, rate, options.panLaw(), options.nominalDbfs(), sources, channels, main, List.of());
    }
}
