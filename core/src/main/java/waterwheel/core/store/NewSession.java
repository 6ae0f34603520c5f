package waterwheel.core.store;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.AudioSource;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.SourceId;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.work.Progress;

/** Makes a session of audio files: one track a file, all to the main bus, all gains 0 dB. */
public final class NewSession {
    private NewSession() {}

    /**
     * What a new session is made with.
     *
     * @param sampleRateHz the session's rate, or empty for the rate that most files have
     * @param copy whether files are copied into the folder; otherwise they stay where they are and are linked
     */
    public record Options(OptionalInt sampleRateHz, PanLaw panLaw, double nominalDbfs, boolean copy) {
        /** Most files' rate, -3 dB, -18 dBFS, copied. */
        public static final Options DEFAULT = new Options(OptionalInt.empty(), PanLaw.MINUS_3, -18, true);
    }

    /**
     * A new session.
     *
     * @param refused files that could not be taken, each with its sentence; the session does without them
     */
    public record Made(Session session, List<AudioFileException> refused) {
        public Made {
            refused = List.copyOf(refused);
        }
    }

    /** A file that can be used. */
    private record Usable(Path file, AudioFormat format) {}

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
        List<AudioFileException> refused = new ArrayList<>();
        List<Usable> usable = new ArrayList<>();
        for (Path file : withoutFolders(files)) {
            try (AudioFile audio = AudioFiles.open(file)) {
                if (audio.format().frames() == 0) {
                    throw new AudioFileException(file, "holds no audio.", "Leave it out.");
                }
                usable.add(new Usable(file, audio.format()));
            } catch (AudioFileException e) {
                refused.add(e);
            }
        }
        int rate = options.sampleRateHz().orElseGet(() -> commonRate(usable));
        for (Usable one :
                usable.stream().filter(u -> u.format().sampleRateHz() != rate).toList()) {
            refused.add(new AudioFileException(
                    one.file(),
                    "is at " + one.format().sampleRateHz() + " Hz, but the session runs at " + rate + " Hz.",
                    "Convert the file to " + rate + " Hz."));
            usable.remove(one);
        }
        if (usable.isEmpty()) {
            throw new SessionFileException(
                    refused.isEmpty()
                            ? "There is no audio file here to make a session of."
                            : "None of the files can be used: "
                                    + refused.getFirst().getMessage(),
                    "Name WAV files, or folders that hold some.");
        }
        Session session = assemble(folder, usable, rate, options, progress);
        SessionFolder.save(session, folder);
        return new Made(session, refused);
    }

    private static List<Path> withoutFolders(List<Path> files) throws SessionFileException {
        List<Path> all = new ArrayList<>();
        for (Path file : files) {
            if (!Files.isDirectory(file)) {
                all.add(file);
                continue;
            }
            try (Stream<Path> inside = Files.list(file)) {
                inside.filter(AudioFiles::looksLikeAudio).sorted().forEach(all::add);
            } catch (IOException e) {
                throw new SessionFileException(
                        file + " cannot be listed: " + e.getMessage() + ".", "Check that you may read it.", e);
            }
        }
        return all;
    }

    private static int commonRate(List<Usable> files) {
        Map<Integer, Integer> counts = new LinkedHashMap<>();
        files.forEach(f -> counts.merge(f.format().sampleRateHz(), 1, Integer::sum));
        return counts.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse(48_000);
    }

    private static Session assemble(Path folder, List<Usable> files, int rate, Options options, Progress progress)
            throws SessionFileException {
        ChannelId main = new ChannelId("main");
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> channels = new ArrayList<>();
        Set<String> names = new HashSet<>(Set.of("main"));
        for (int i = 0; i < files.size(); i++) {
            progress.check();
            Usable one = files.get(i);
            AudioFormat format = one.format();
            SourceId source = new SourceId("s" + (i + 1));
            String path = options.copy()
                    ? copied(one.file(), folder)
                    : one.file().toAbsolutePath().normalize().toString();
            sources.add(new AudioSource(
                    source,
                    path,
                    format.frames(),
                    format.channels(),
                    rate,
                    format.encoding().label()));
            channels.add(new Track(
                    new ChannelId("t" + (i + 1)),
                    uniqueName(one.file(), names),
                    Track.Kind.SUSTAINED,
                    format.channels(),
                    List.of(new Clip(source, 0, 0, format.frames(), 0)),
                    Strip.unity(Output.to(main))));
            progress.at((i + 1.0) / files.size());
        }
        channels.add(new Bus(main, "Main", Strip.unity(new Output.Nowhere())));
        String title = String.valueOf(folder.toAbsolutePath().normalize().getFileName());
        return new Session(title, rate, options.panLaw(), options.nominalDbfs(), sources, channels, main, List.of());
    }

    private static String copied(Path file, Path folder) throws SessionFileException {
        Path audio = folder.resolve(SessionFolder.AUDIO);
        try {
            Files.createDirectories(audio);
            Path target = audio.resolve(file.getFileName());
            if (Files.exists(target) && Files.isSameFile(target, file)) {
                return SessionFolder.AUDIO + "/" + file.getFileName();
            }
            for (int i = 2; Files.exists(target); i++) {
                target = audio.resolve(stem(file) + " " + i + ".wav");
            }
            Path aside = audio.resolve("." + target.getFileName() + ".part");
            Files.copy(file, aside, StandardCopyOption.REPLACE_EXISTING);
            Files.move(aside, target, StandardCopyOption.ATOMIC_MOVE);
            return SessionFolder.AUDIO + "/" + target.getFileName();
        } catch (IOException e) {
            throw new SessionFileException(
                    file + " cannot be copied to " + audio + ": " + e.getMessage() + ".",
                    "Check the folder's rights and the space on the disk.",
                    e);
        }
    }

    private static String uniqueName(Path file, Set<String> taken) {
        String base = stem(file).replace('_', ' ').strip();
        String name = base.isEmpty() ? "Track" : base;
        for (int i = 2; !taken.add(name.toLowerCase(Locale.ROOT)); i++) {
            name = base + " " + i;
        }
        return name;
    }

    private static String stem(Path file) {
        String name = String.valueOf(file.getFileName());
        int dot = name.lastIndexOf('.');
        return dot > 0 ? name.substring(0, dot) : name;
    }
}
