package waterwheel.core.recall;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.SimulatedUnits;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RecallSheetTest {
    private static final UnitId PEDAL = new UnitId("pedal");
    private static final UnitId IDLE = new UnitId("idle");

    @TempDir
    Path folder;

    private Session session(Unit pedal) throws Exception {
        return new Sessions(folder)
                .track("one", "main", Signals.noise(0.1, 1_000, 1))
                .build()
                .withRack(new Rack(
                        Driver.SIMULATED,
                        1,
                        List.of(),
                        List.of(pedal, SimulatedUnits.unit("springs", IDLE)),
                        List.of()))
                .withStrip(
                        Sessions.id("one"),
                        s -> s.withInserts(List.of(Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                                .withInputDb(-6)
                                .withLoop(new Loop(Optional.of(PEDAL), 5, 6, Optional.empty(), Optional.empty())))));
    }

    private static Unit pedal() {
        return SimulatedUnits.unit("drive", PEDAL);
    }

    private static Unit turned(double to) {
        List<Knob> knobs = new ArrayList<>(pedal().knobs());
        knobs.set(0, knobs.getFirst().withValue(to));
        return pedal().withKnobs(knobs);
    }

    @Test
    void it_tells_of_every_unit_in_use_its_ports_gains_and_knobs() throws Exception {
        RecallSheet sheet = RecallSheet.of(session(pedal()));
        assertThat(sheet.units()).singleElement().satisfies(entry -> {
            assertThat(entry.name()).isEqualTo("Grindstone drive pedal");
            assertThat(entry.lines())
                    .contains(
                            new RecallSheet.Line("Channel", "one", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("From", "Output 5", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("To", "Input 6", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("0 dBFS is", "+18.0 dBu out, +18.0 dBu in", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("Send gain", "\u22126.0 dB", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("Timing", "not timed", RecallSheet.NO_PLACE),
                            new RecallSheet.Line("Grit", "4.0", 0.4));
        });
    }

    @Test
    void a_page_is_read_back_as_it_was_whatever_is_written_in_it() throws Exception {
        RecallSheet sheet = RecallSheet.of(
                session(pedal().withName("A <b>\"box\"</b>").withNotes("</script><script>alert(1)</script> & more")));
        Path file = folder.resolve(RecallPage.FILE);
        RecallPage.write(sheet, file);
        assertThat(RecallPage.read(file)).hasValue(sheet);
        assertThat(Files.readString(file))
                .contains("A &lt;b&gt;")
                .doesNotContain("<b>\"box\"")
                .doesNotContain("<script>alert");
    }

    @Test
    void what_is_no_such_page_reads_as_none() throws Exception {
        Path file = folder.resolve("page.html");
        assertThat(RecallPage.read(file)).isEmpty();
        Files.writeString(file, "<html></html>");
        assertThat(RecallPage.read(file)).isEmpty();
        Files.writeString(file, "<script type=\"application/json\" id=\"recall-sheet\">{broken</script>");
        assertThat(RecallPage.read(file)).isEmpty();
        Files.write(file, new byte[] {(byte) 0xff, (byte) 0xfe, 0, 1});
        assertThat(RecallPage.read(file)).isEmpty();
    }

    @Test
    void a_later_sheet_says_what_stands_otherwise_and_nothing_where_all_is_the_same() throws Exception {
        RecallSheet before = RecallSheet.of(session(pedal()));
        assertThat(RecallSheet.of(session(turned(5.5))).since(before))
                .containsExactly("Grindstone drive pedal, Grit: 5.5 (was 4.0)");
        assertThat(before.since(before)).isEmpty();
        RecallSheet none = new RecallSheet("Test", List.of());
        assertThat(none.since(before))
                .hasSize(before.units().getFirst().lines().size())
                .allMatch(w -> w.contains("gone"));
        assertThat(before.since(none)).allMatch(words -> words.endsWith("(new)"));
    }
}
