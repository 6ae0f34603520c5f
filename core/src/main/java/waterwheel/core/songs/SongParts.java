package waterwheel.core.songs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CancellationException;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.captures.Captures;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.SlotState;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.RenderException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.levels.MeasureCache;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.StemGroups;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemRequest;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.work.Progress;

/** The parts of a song that is a session: its stems by bus, rendered once for each state of it. */
final class SongParts {
    private static final String STAMP = "state.txt";
    private static final String NOTES = "notes.txt";

    private SongParts() {}

    /** A session and the state of all that it reads. */
    record Seen(Session session, String stamp) {}

    /** Whether the parts that lie in a folder are those of a state. */
    static boolean upToDate(Path parts, Seen seen) {
        try {
            return Files.readString(parts.resolve(STAMP), StandardCharsets.UTF_8)
                    .equals(seen.stamp());
        } catch (IOException e) {
            return false;
        }
    }

    /** What is to be known of parts as they were rendered, a sentence each. */
    static List<String> notes(Path parts) {
        try {
            return Files.readAllLines(parts.resolve(NOTES), StandardCharsets.UTF_8);
        } catch (IOException e) {
            return List.of();
        }
    }

    /** Which hardware is not captured as it is now, in a sentence; empty where all is. */
    private static String hardware(Path folder, Session session) throws WaterwheelException {
        if (HardwareSlot.of(session).isEmpty()) {
            return "";
        }
        try (Media media = Media.open(session, folder)) {
            StemSettings settings = StemSettings.USUAL.withDivision(division(session));
            List<SlotState> states = new ArrayList<>(Captures.of(session, media));
            settings.shares(session).forEach(share -> states.addAll(share.states(session, media)));
            String open = Captures.openInWords(session, states);
            return open.isEmpty()
                    ? ""
                    : "Hardware is not captured as it is now: " + open + ". Open the session and capture it there.";
        }
    }

    /** The parts are the stems that the session's engineer put together, or else its buses. */
    private static StemDivision division(Session session) {
        StemDivision own = session.stems();
        return own.by() == StemDivision.By.NAMED ? own : StemDivision.BUSES;
    }

    /** What the parts of a session are called. */
    static List<String> names(Session session) {
        return StemGroups.names(session, division(session));
    }

    /**
     * Renders the parts, unless they are there.
     *
     * @param folder the session's
     * @param parts where they go
     * @throws WaterwheelException if they cannot be rendered
     * @throws CancellationException if the progress says stop
     */
    static void make(Path folder, Seen seen, Path parts, Progress progress) throws WaterwheelException {
        if (upToDate(parts, seen)) {
            return;
        }
        StemSettings settings = StemSettings.USUAL.withDivision(division(seen.session()));
        StemRequest request = new StemRequest(parts, RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true)
                .with(settings)
                .withOverwrite(true)
                .withIncomplete(true);
        // Nothing is written to the session's own folder.
        StemRender.render(seen.session(), folder, request, MeasureCache.none(), progress);
        try {
            Files.writeString(parts.resolve(NOTES), hardware(folder, seen.session()), StandardCharsets.UTF_8);
            Files.writeString(parts.resolve(STAMP), seen.stamp(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new RenderException(
                    parts + " cannot be written: " + e.getMessage() + ".", "Check the space on the disk.", e);
        }
    }
}
