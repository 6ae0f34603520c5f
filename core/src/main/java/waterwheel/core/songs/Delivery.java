package waterwheel.core.songs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.metering.Figures;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.session.StemDivision;
import waterwheel.core.stems.Checksums;
import waterwheel.core.stems.FileNames;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.NamePattern;
import waterwheel.core.stems.RenderPlace;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemRequest;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.store.OrderFile;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * Delivers songs as corrected. Each song is a piece of work of its own that reads nothing but its files and the running
 * order, so that any number of processes may deliver some of them to one folder.
 */
public final class Delivery {
    private final RunningOrder order;
    private final OrderPlace place;
    private final DeliveryRequest request;
    private final SongReader reader;
    private final Map<SongId, String> folders;

    /**
     * Prepares a delivery.
     *
     * @param order all of it, since a song's folder is numbered by its place
     */
    public Delivery(RunningOrder order, OrderPlace place, DeliveryRequest request) {
        this.order = order;
        this.place = place;
        this.request = request;
        reader = new SongReader(place);
        folders = folders(order);
    }

    private static Map<SongId, String> folders(RunningOrder order) {
        Map<SongId, String> folders = new LinkedHashMap<>();
        Set<String> taken = new HashSet<>();
        for (Song song : order.songs()) {
            folders.put(song.id(), FileNames.unique(folders.size() + 1, song.title(), taken));
        }
        return folders;
    }

    /**
     * Delivers songs one after the other; one that cannot be is told of and keeps none of the others.
     *
     * @param songs which of the running order
     * @param done gets each as soon as it is there
     * @throws RenderException if nothing may be rendered to the folder
     * @throws java.util.concurrent.CancellationException if the progress says stop; songs that are done stay
     */
    public List<DeliveredSong> deliver(List<SongId> songs, Consumer<DeliveredSong> done, Progress progress)
            throws RenderException {
        checkFolder();
        List<DeliveredSong> delivered = new ArrayList<>();
        double share = 1.0 / Math.max(1, songs.size());
        for (SongId id : songs) {
            progress.check();
            Song song = order.song(id);
            Progress part = progress.part(delivered.size() * share, (delivered.size() + 1) * share);
            DeliveredSong one;
            try {
                one = deliver(song, part);
            } catch (WaterwheelException e) {
                one = new DeliveredSong(
                        id,
                        song.title(),
                        folders.getOrDefault(id, ""),
                        List.of(),
                        Map.of(),
                        false,
                        String.valueOf(e.getMessage()),
                        false);
            }
            delivered.add(one);
            done.accept(one);
        }
        return delivered;
    }

    /** Nothing is rendered into what the running order reads. */
    private void checkFolder() throws RenderException {
        Path folder = request.folder().toAbsolutePath().normalize();
        for (Song song : order.songs()) {
            if (folder.startsWith(place.of(song))) {
                throw new RenderException(
                        "The running order reads " + song.title() + " from " + place.of(song)
                                + "; nothing is delivered there.",
                        "Choose another folder.");
            }
        }
        if (folder.startsWith(OrderFile.working(place.file()))) {
            throw new RenderException(
                    folder + " is where the running order keeps its own files.", "Choose another folder.");
        }
    }

    private DeliveredSong deliver(Song song, Progress progress) throws WaterwheelException {
        String name = folders.getOrDefault(song.id(), "");
        Path folder = request.folder().resolve(name);
        SongReader.Look look = reader.ready(song, order, progress.part(0, 0.3));
        String key = SongStamp.hex(look.stamp() + "|" + request.key() + "|" + song.title());
        Optional<DeliveredSong> there = DeliveryJson.upToDate(folder, name, song, key);
        if (there.isPresent()) {
            progress.at(1);
            return there.get();
        }
        try {
            Files.createDirectories(folder);
            // A song that is half replaced is none that is up to date.
            Files.deleteIfExists(folder.resolve(DeliveryJson.FILE));
            DeliveredSong delivered = request.channels().isPresent()
                    ? asChannels(song, look, name, request.channels().get(), progress.part(0.3, 1))
                    : asParts(song, look, name, progress.part(0.3, 1));
            DeliveryJson.write(folder, delivered, key);
            return delivered;
        } catch (IOException e) {
            throw new RenderException(
                    "The folder " + folder + " cannot be written: " + e.getMessage() + ".",
                    "Choose another folder, or check its rights and the space on the disk.",
                    e);
        }
    }

    private SongSession session(Song song, SongReader.Look look, SongSession.Cues cues, Progress progress)
            throws WaterwheelException {
        SongSession session = SongSession.of(
                song, look.files().orElseThrow(), look.sections(), order, place, request::takes, cues, progress);
        if (!session.refused().isEmpty()) {
            throw new RenderException(
                    song.title() + " is not whole: " + session.refused().getFirst(),
                    "Mend that, or leave the song out.");
        }
        return session;
    }

    private DeliveredSong asParts(Song song, SongReader.Look look, String name, Progress progress)
            throws WaterwheelException {
        SongSession session = session(song, look, SongSession.Cues.AS_TRACKS, progress.part(0, 0.1));
        StemRequest stems = new StemRequest(
                        request.folder().resolve(name), request.format(), new LevelPolicy.AsMixed(), true)
                .with(StemSettings.USUAL.withDivision(StemDivision.BUSES))
                .with(NamePattern.BY_PART)
                .withOverwrite(request.overwrite());
        StemResult result =
                StemRender.render(session.session(), place.folder(), stems, MeasureCache.none(), progress.part(0.1, 1));
        List<DeliveredPart> parts = new ArrayList<>();
        Map<String, String> sums = new LinkedHashMap<>();
        for (StemResult.Written file : result.files()) {
            Figures figures = result.proof().files().get(file.path());
            if (figures != null) {
                parts.add(new DeliveredPart(
                        file.name(), file.path(), file.role() == StemResult.Role.MIX, Level.of(figures)));
            }
            sums.put(file.path(), file.checksum());
        }
        return new DeliveredSong(
                song.id(),
                song.title(),
                name,
                parts,
                sums,
                result.proof().holds(),
                result.proof().inWords(),
                false);
    }

    private DeliveredSong asChannels(
            Song song, SongReader.Look look, String name, ChannelPlan channels, Progress progress)
            throws WaterwheelException, IOException {
        SongSession session = session(song, look, SongSession.Cues.ASIDE, progress.part(0, 0.1));
        Path folder = request.folder().resolve(name);
        Path file = folder.resolve(name + request.format().ending());
        RenderPlace where = new RenderPlace(session.session(), place.folder());
        where.checkFolder(folder);
        where.checkFiles(List.of(file), request.overwrite());
        ChannelFile.Written written;
        try (Team team = Team.ofAllProcessors()) {
            written = new ChannelFile(session, channels, place.folder())
                    .write(file, request.format(), team, progress.part(0.1, 1));
        }
        String proof = written.atLimit() > 0
                ? written.atLimit() + " samples are at the limit: it is too hot for its format."
                : "The file holds what was rendered: the difference is "
                        + LevelText.level(written.residualPeakDbfs(), "dBFS") + ", within "
                        + LevelText.level(written.resolutionDbfs(), "dBFS") + ". No sample is at the limit.";
        return new DeliveredSong(
                song.id(),
                song.title(),
                name,
                written.parts(),
                Map.of(String.valueOf(file.getFileName()), Checksums.of(file)),
                written.holds(),
                proof,
                false);
    }
}
