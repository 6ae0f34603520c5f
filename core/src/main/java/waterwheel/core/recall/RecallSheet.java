package waterwheel.core.recall;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;

/**
 * What stands where: for each unit that a session uses its ports, gains, timing and knobs. Immutable.
 *
 * @param title the song's
 * @param units in the order of the rack
 */
public record RecallSheet(String title, List<Entry> units) {
    /** Where a value does not stand on a scale. */
    public static final double NO_PLACE = -1;

    public RecallSheet {
        units = List.copyOf(units);
    }

    /**
     * One unit.
     *
     * @param lines what is to be set, in the order of the sheet
     */
    public record Entry(String name, List<Line> lines) {
        public Entry {
            lines = List.copyOf(lines);
        }
    }

    /**
     * One thing that is to be set.
     *
     * @param place where a knob stands between its ends, 0 to 1; {@link #NO_PLACE} for what is no knob
     */
    public record Line(String name, String value, double place) {}

    /** The sheet of a session as it is; units that no slot leads through are not in it. */
    public static RecallSheet of(Session session) {
        List<Entry> entries = new ArrayList<>();
        for (Unit unit : session.rack().units()) {
            List<Line> lines = new ArrayList<>();
            for (HardwareSlot slot : HardwareSlot.of(session)) {
                Insert insert = slot.insert(session);
                if (insert.processor().loop().unit().filter(unit.id()::equals).isPresent()) {
                    addLoop(lines, session, slot, insert);
                }
            }
            if (!lines.isEmpty()) {
                addUnit(lines, unit);
                entries.add(new Entry(unit.name(), lines));
            }
        }
        return new RecallSheet(session.title(), entries);
    }

    private static void addLoop(List<Line> lines, Session session, HardwareSlot slot, Insert insert) {
        Loop loop = insert.processor().loop();
        int planes = session.channel(slot.channel()).planes();
        lines.add(plain("Channel", session.channel(slot.channel()).name()));
        lines.add(
                plain("From", ports(session, PortSide.OUTPUT, loop.sends(planes).toArray())));
        lines.add(
                plain("To", ports(session, PortSide.INPUT, loop.returns(planes).toArray())));
        if (loop.patched()) {
            Rack rack = session.rack();
            lines.add(plain(
                    "0 dBFS is",
                    LevelText.level(rack.port(PortSide.OUTPUT, loop.sendPort()).fullScaleDbu(), "dBu") + " out, "
                            + LevelText.level(
                                    rack.port(PortSide.INPUT, loop.returnPort()).fullScaleDbu(), "dBu")
                            + " in"));
        }
        lines.add(plain("Send gain", LevelText.change(insert.inputDb())));
        lines.add(plain("Return gain", LevelText.change(insert.outputDb())));
        lines.add(plain("Mix", LevelText.signed(100 * insert.mix(), 0, false) + " %"));
        lines.add(plain("Timing", loop.timing().map(RecallSheet::inWords).orElse("not timed")));
    }

    private static String ports(Session session, PortSide side, int[] numbers) {
        List<String> names = new ArrayList<>();
        for (int number : numbers) {
            names.add(session.rack().port(side, number).label());
        }
        return names.isEmpty() ? "not patched" : String.join(" and ", names);
    }

    private static String inWords(LoopTiming timing) {
        return LevelText.signed(timing.latencyFrames(), 2, false) + " samples, "
                + (timing.inverted() ? "inverted" : "not inverted") + ", gain "
                + LevelText.change(timing.gainDb());
    }

    private static void addUnit(List<Line> lines, Unit unit) {
        lines.add(plain("Expects", unit.expects().label()));
        unit.reamplifier()
                .ifPresent(box -> lines.add(plain(
                        "Re-amplifier",
                        "turned down by " + LevelText.signed(box.padDb(), 1, false) + " dB, ground "
                                + (box.groundLifted() ? "lifted" : "connected"))));
        for (Knob knob : unit.knobs()) {
            int decimals = knob.most() - knob.least() >= 1_000 ? 0 : 1;
            lines.add(new Line(
                    knob.name(),
                    LevelText.signed(knob.value(), decimals, false)
                            + (knob.unit().isEmpty() ? "" : " " + knob.unit()),
                    (knob.value() - knob.least()) / (knob.most() - knob.least())));
        }
        if (!unit.notes().isBlank()) {
            lines.add(plain("Notes", unit.notes()));
        }
    }

    private static Line plain(String name, String value) {
        return new Line(name, value, NO_PLACE);
    }

    /** What stands otherwise than in an earlier sheet, a few words each; none where all is the same. */
    public List<String> since(RecallSheet earlier) {
        Map<String, String> before = flat(earlier);
        Map<String, String> now = flat(this);
        List<String> words = new ArrayList<>();
        now.forEach((name, value) -> {
            String was = before.get(name);
            if (was == null) {
                words.add(name + ": " + value + " (new)");
            } else if (!was.equals(value)) {
                words.add(name + ": " + value + " (was " + was + ")");
            }
        });
        before.forEach((name, value) -> {
            if (!now.containsKey(name)) {
                words.add(name + ": gone (was " + value + ")");
            }
        });
        return words;
    }

    /** By unit and line; the second line of a name has a number, as where a unit is used twice. */
    private static Map<String, String> flat(RecallSheet sheet) {
        Map<String, String> all = new LinkedHashMap<>();
        for (Entry entry : sheet.units()) {
            for (Line line : entry.lines()) {
                String name = entry.name() + ", " + line.name();
                int number = 2;
                for (String free = name; all.putIfAbsent(free, line.value()) != null; number++) {
                    free = name + " " + number;
                }
            }
        }
        return all;
    }
}
