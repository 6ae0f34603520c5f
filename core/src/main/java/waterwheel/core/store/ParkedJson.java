package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import waterwheel.core.session.Bond;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Parked;
import waterwheel.core.store.SessionJson.Problem;

/** The parked channels in the session file. */
final class ParkedJson {
    private static final int MOST_CHANNELS = 1 << 20;

    private ParkedJson() {}

    static void write(ObjectNode node, List<Parked> parked) {
        if (parked.isEmpty()) {
            return;
        }
        ArrayNode list = node.putArray("parked");
        for (Parked one : parked) {
            ObjectNode entry = list.addObject();
            entry.set("channel", SessionJson.write(one.channel()));
            if (!one.along().isEmpty()) {
                ArrayNode along = entry.putArray("along");
                one.along().forEach(each -> along.addObject()
                        .put("place", each.place())
                        .set("channel", SessionJson.write(each.channel())));
            }
            if (!one.bonds().isEmpty()) {
                ArrayNode bonds = entry.putArray("bonds");
                one.bonds().forEach(bond -> write(bonds.addObject(), bond));
            }
        }
    }

    private static void write(ObjectNode node, Bond bond) {
        switch (bond) {
            case Bond.Fed(ChannelId from, ChannelId bus) ->
                node.put("type", "output").put("from", from.value()).put("to", bus.value());
            case Bond.Extra(ChannelId from, ChannelId bus) ->
                node.put("type", "extra").put("from", from.value()).put("to", bus.value());
            case Bond.Sent sent -> {
                node.put("type", "send").put("from", sent.from().value()).put("place", sent.place());
                StripJson.write(node.putObject("send"), sent.send());
            }
            case Bond.Member member ->
                node.put("type", "member")
                        .put("from", member.group().value())
                        .put("to", member.member().value())
                        .put("exempt", member.exempt());
        }
    }

    static List<Parked> read(JsonFields fields) throws Problem {
        return fields.has("parked") ? fields.list("parked", ParkedJson::parked) : List.of();
    }

    private static Parked parked(JsonFields fields) throws Problem {
        JsonFields channel = fields.object("channel");
        Parked parked = new Parked(
                SessionJson.channel(channel),
                fields.has("along") ? fields.list("along", ParkedJson::along) : List.of(),
                fields.has("bonds") ? fields.list("bonds", ParkedJson::bond) : List.of());
        channel.close();
        return parked;
    }

    private static Parked.Along along(JsonFields fields) throws Problem {
        JsonFields channel = fields.object("channel");
        Parked.Along along =
                new Parked.Along((int) fields.count("place", 0, MOST_CHANNELS), SessionJson.channel(channel));
        channel.close();
        return along;
    }

    private static Bond bond(JsonFields fields) throws Problem {
        ChannelId from = new ChannelId(fields.text("from"));
        String type = fields.text("type");
        if (type.equals("send")) {
            JsonFields send = fields.object("send");
            Bond bond = new Bond.Sent(from, (int) fields.count("place", 0, MOST_CHANNELS), StripJson.send(send));
            send.close();
            return bond;
        }
        ChannelId to = new ChannelId(fields.text("to"));
        return switch (type) {
            case "output" -> new Bond.Fed(from, to);
            case "extra" -> new Bond.Extra(from, to);
            case "member" -> new Bond.Member(from, to, fields.flag("exempt"));
            default -> throw new Problem("A parked channel has a bond of an unknown type.");
        };
    }
}
