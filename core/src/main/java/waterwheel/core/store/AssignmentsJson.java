package waterwheel.core.store;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.store.SessionJson.Problem;

/** What the parts of controllers move, in a session file; left out where there are none. */
final class AssignmentsJson {
    private static final long MOST_SENDS = 10_000;

    private AssignmentsJson() {}

    static void write(ObjectNode session, List<Assignment> assignments) {
        if (assignments.isEmpty()) {
            return;
        }
        ArrayNode all = session.putArray("controllers");
        for (Assignment one : assignments) {
            ObjectNode node = all.addObject();
            node.put("device", one.part().device());
            node.put("kind", one.part().kind().label());
            node.put("midiChannel", one.part().channel());
            node.put("number", one.part().number());
            node.put("channel", one.control().owner().value());
            switch (one.control().part()) {
                case ControlId.OfStrip() -> {}
                case ControlId.OfSend(int number) -> node.put("send", number + 1);
                case ControlId.OfInsert(SlotId slot) -> node.put("insert", slot.value());
            }
            node.put("control", one.control().key());
        }
    }

    static List<Assignment> read(JsonFields session) throws Problem {
        return session.has("controllers") ? session.list("controllers", AssignmentsJson::assignment) : List.of();
    }

    private static Assignment assignment(JsonFields fields) throws Problem {
        ControllerPart part = new ControllerPart(
                fields.text("device"),
                fields.oneOf("kind", ControllerPart.Kind.values(), ControllerPart.Kind::label),
                (int) fields.count("midiChannel", 1, 16),
                (int) fields.count("number", 0, 127));
        ControlId.Part of = new ControlId.OfStrip();
        if (fields.has("send")) {
            of = new ControlId.OfSend((int) fields.count("send", 1, MOST_SENDS) - 1);
        } else if (fields.has("insert")) {
            of = new ControlId.OfInsert(new SlotId(fields.text("insert")));
        }
        return new Assignment(part, new ControlId(new ChannelId(fields.text("channel")), of, fields.text("control")));
    }
}
