package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import waterwheel.core.edit.MixedAlike;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.json.Json;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(
        name = "like",
        description = "Lays the flow of one song's session over others': buses, returns, VCAs, link groups, inserts,"
                + " sends, faders, placements and targets, not their audio. Changes nothing without --apply.")
final class OrderLikeCommand implements Callable<Integer> {
    @Mixin
    private OrderOptions options = new OrderOptions();

    @Option(names = "--from", required = true, paramLabel = "SONG", description = "The song whose flow is taken.")
    private String from = "";

    @Option(
            names = "--song",
            required = true,
            paramLabel = "SONG",
            arity = "1..*",
            description = "The songs that it is laid over, by title or id.")
    private List<String> songs = List.of();

    @Option(names = "--rides", description = "Take the curves too, frame by frame.")
    private boolean rides;

    @Option(names = "--apply", description = "Save the songs as they become.")
    private boolean apply;

    @Override
    public Integer call() throws Exception {
        RunningOrder order = options.order();
        Song model = OrderOptions.only(order, List.of(from)).songs().getFirst();
        Path modelFolder = folder(model);
        Session flow = SessionFolder.load(modelFolder).session();
        ObjectNode document = Json.object();
        document.put("applied", apply);
        ArrayNode all = document.putArray("songs");
        boolean refused = false;
        for (Song song : OrderOptions.only(order, songs).songs()) {
            ObjectNode node = all.addObject().put("id", song.id().value()).put("title", song.title());
            try {
                MixedAlike laid = laid(flow, modelFolder, song);
                node.put("ok", true);
                node.put("matchedTracks", laid.matched());
                ArrayNode unmatched = node.putArray("unmatchedTracks");
                laid.unmatched().forEach(unmatched::add);
                ArrayNode wanting = node.putArray("wantingTracks");
                laid.wanting().forEach(wanting::add);
                ArrayNode changes = node.putArray("changes");
                laid.sentences().forEach(changes::add);
                say(song, laid);
            } catch (WaterwheelException e) {
                refused = true;
                node.put("ok", false);
                node.put("error", e.getMessage());
                Console.tell(song.title() + ": " + e.getMessage());
            }
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        } else if (!apply) {
            Console.say("Nothing is changed; --apply saves the songs so.");
        }
        return refused ? 1 : 0;
    }

    private MixedAlike laid(Session flow, Path modelFolder, Song song) throws WaterwheelException {
        Path folder = folder(song);
        try (SessionLock lock = apply ? SessionLock.acquire(folder) : SessionLock.none()) {
            SessionFolder.Loaded read = SessionFolder.load(folder);
            MixedAlike laid = MixedAlike.of(flow, modelFolder, read.session(), rides);
            if (apply && !laid.after().equals(read.session())) {
                lock.save(laid.after(), read);
            }
            return laid;
        }
    }

    private void say(Song song, MixedAlike laid) {
        if (options.json()) {
            return;
        }
        Console.say(song.title() + ": " + laid.matched() + " tracks matched.");
        laid.sentences().forEach(sentence -> Console.say("  " + sentence));
        if (!laid.unmatched().isEmpty()) {
            Console.say("  As they were, without a counterpart: " + String.join(", ", laid.unmatched()) + ".");
        }
        if (!laid.wanting().isEmpty()) {
            Console.say("  Not in this song: " + String.join(", ", laid.wanting()) + ".");
        }
    }

    private Path folder(Song song) throws SessionFileException {
        Path folder = options.place().of(song);
        if (!SessionFolder.isSession(folder)) {
            throw new SessionFileException(
                    song.title() + " is no session, and has no flow.", "Name a song that is a session.");
        }
        return folder;
    }
}
