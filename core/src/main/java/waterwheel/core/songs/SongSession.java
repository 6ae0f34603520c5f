package waterwheel.core.songs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.intake.FileImport;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Stretch;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/**
 * A song as a session of its stems: a track a file, a bus a part, all gains 0 dB but for what corrects them. A mono stem
 * sounds on both sides at its level.
 *
 * @param parts in the running order's order
 * @param session with every part in the mix but cues, which go nowhere
 * @param notes what was met on the way, a sentence each
 */
record SongSession(List<PartBus> parts, Session session, List<String> notes) {
    /** A part and its bus. */
    record PartBus(Part part, ChannelId bus) {}

    private static final SlotId CORRECTION = new SlotId("correction");
    private static final ChannelId MAIN = new ChannelId("main");

    /** A file that is open for the engine: its header is known. */
    private record Opened(Path file, String name, String part, AudioFormat format) {}

    /**
     * Makes the session of a song.
     *
     * @param sections in seconds
     * @throws WaterwheelException if no stem can be read
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    static SongSession of(
            Song song, SongFiles files, List<Stretch> sections, RunningOrder order, OrderPlace place, Progress progress)
            throws WaterwheelException {
        List<String> notes = new ArrayList<>();
        int rate = rate(files, notes);
        List<Opened> opened = new ArrayList<>();
        for (SongFiles.Stem stem : files.stems()) {
            progress.check();
            try {
                opened.addAll(opened(stem, rate, place, progress, notes));
            } catch (AudioFileException e) {
                notes.add(e.getMessage());
            }
        }
        if (opened.isEmpty()) {
            throw new SessionFileException(
                    "None of the files of " + song.title() + " can be used: " + notes.getFirst(),
                    "Put files there that can be read.");
        }
        return assembled(song, opened, rate, sections, order, notes);
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

    private static List<Opened> opened(
            SongFiles.Stem stem, int rate, OrderPlace place, Progress progress, List<String> notes)
            throws AudioFileException {
        try (AudioFile file = AudioFiles.open(stem.file())) {
            AudioFormat format = file.format();
            if (format.frames() == 0) {
                throw new AudioFileException(stem.file(), "holds no audio.", "Leave it out.");
            }
            if (AudioFiles.playedDirectly(file) && format.channels() <= 2 && format.sampleRateHz() == rate) {
                return List.of(new Opened(stem.file(), stem.name(), stem.part(), format));
            }
        }
        List<Opened> converted = new ArrayList<>();
        for (Path file : converted(stem.file(), rate, place, progress)) {
            try (AudioFile audio = AudioFiles.open(file)) {
                converted.add(new Opened(file, stem.name(), stem.part(), audio.format()));
            }
        }
        if (converted.size() > 1) {
            notes.add(stem.file().getFileName() + " has more than two channels, which are heard together.");
        }
        return converted;
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

    private static SongSession assembled(
            Song song, List<Opened> opened, int rate, List<Stretch> sections, RunningOrder order, List<String> notes) {
        List<AudioSource> sources = new ArrayList<>();
        List<Channel> tracks = new ArrayList<>();
        Map<String, PartBus> parts = parts(opened, order);
        for (Opened one : opened) {
            SourceId id = new SourceId("f" + (sources.size() + 1));
            AudioFormat format = one.format();
            sources.add(new AudioSource(
                    id,
                    one.file().toAbsolutePath().normalize().toString(),
                    format.frames(),
                    format.channels(),
                    format.sampleRateHz(),
                    format.encoding().label()));
            tracks.add(new Track(
                    new ChannelId("t" + sources.size()),
                    one.name(),
                    Track.Kind.SUSTAINED,
                    format.channels(),
                    List.of(new Clip(id, 0, 0, format.frames(), 0)),
                    Strip.unity(Output.to(
                            Objects.requireNonNull(parts.get(one.part())).bus()))));
        }
        List<Channel> channels = new ArrayList<>(tracks);
        for (PartBus one : parts.values()) {
            Output output = one.part().cue() ? new Output.Nowhere() : Output.to(MAIN);
            String name = one.part().name();
            channels.add(new Bus(one.bus(), name, corrected(Strip.unity(output), song.correction(name))));
        }
        channels.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        Session session = new Session(song.title(), rate, PanLaw.ZERO, -18, sources, channels, MAIN, List.of());
        return new SongSession(List.copyOf(parts.values()), withSections(session, sections), notes);
    }

    /** In the running order's order, those that it does not know behind. */
    private static Map<String, PartBus> parts(List<Opened> opened, RunningOrder order) {
        Set<String> there = new LinkedHashSet<>();
        opened.forEach(one -> there.add(one.part()));
        Map<String, PartBus> parts = new LinkedHashMap<>();
        Stream.concat(order.parts().stream().map(Part::name).filter(there::contains), there.stream())
                .distinct()
                .forEach(name ->
                        parts.put(name, new PartBus(order.part(name), new ChannelId("p" + (parts.size() + 1)))));
        return parts;
    }

    /** What begins in the song; one that would end after it ends with it. */
    private static Session withSections(Session session, List<Stretch> sections) {
        long length = session.lengthFrames();
        List<Section> inside = new ArrayList<>();
        for (Stretch one : sections) {
            long start = Math.round(one.startSeconds() * session.sampleRateHz());
            long end = Math.min(length, Math.round(one.endSeconds() * session.sampleRateHz()));
            if (start < end) {
                inside.add(new Section(one.name(), start, end));
            }
        }
        return session.withSections(inside);
    }

    /** A strip with a correction on it: the equaliser, then the gain, which order makes no difference. */
    static Strip corrected(Strip strip, Correction correction) {
        Optional<Insert> insert = correction.equaliser().map(settings -> Insert.of(CORRECTION, settings.kind())
                .withProcessor(settings));
        return strip.withTrimDb(correction.gainDb())
                .withInserts(insert.map(List::of).orElse(List.of()));
    }
}
