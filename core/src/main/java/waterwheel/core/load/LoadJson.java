package waterwheel.core.load;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Optional;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.inserts.Insert;
import waterwheel.core.json.Json;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Session;

/** The load as a JSON document. */
public final class LoadJson {
    private static final int DECIMALS = 6;

    private LoadJson() {}

    /**
     * What was measured. A {@code share} is one of all that was computed; {@code ofBlock} and {@code worstOfBlock} are
     * shares of the time that a block lasts, which is also the time that a second of the song takes, in seconds.
     */
    public static ObjectNode of(Load load, Session session) {
        ObjectNode document = Json.object();
        double whole = load.whole().mean();
        document.set("timesRealTime", Json.figure(1 / whole, 2));
        document.put("blockFrames", session.rack().blockFrames());
        put(document, load.whole(), whole);
        document.put("lateBlocks", load.lateCount());
        ArrayNode channels = document.putArray("channels");
        for (Channel channel : session.channels()) {
            ObjectNode node = channels.addObject();
            node.put("id", channel.id().value());
            node.put("name", channel.name());
            put(node, load.of(channel), whole);
            Saving.of(load, session, List.of(FreezeRun.Wanted.last(channel)))
                    .ifPresent(saved -> node.set("freezingSaves", Json.figure(saved, DECIMALS)));
            ArrayNode slots = node.putArray("slots");
            for (Insert insert : channel.strip().inserts()) {
                Optional<PartLoad> found = load.of(channel.id(), Optional.of(insert.id()));
                if (found.isPresent()) {
                    ObjectNode slot = slots.addObject();
                    slot.put("id", insert.id().value());
                    slot.put("processor", insert.processor().kind().label());
                    put(slot, found.get(), whole);
                }
            }
        }
        return document;
    }

    private static void put(ObjectNode node, PartLoad part, double whole) {
        node.set("share", Json.figure(whole == 0 ? 0 : part.mean() / whole, DECIMALS));
        node.set("ofBlock", Json.figure(part.mean(), DECIMALS));
        node.set("worstOfBlock", Json.figure(part.worst(), DECIMALS));
    }
}
