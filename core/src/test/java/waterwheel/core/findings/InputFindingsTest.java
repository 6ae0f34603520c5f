package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Rack;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** What is wrong with what is listened to. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class InputFindingsTest {
    @TempDir
    Path folder;

    /** A track through a loop that comes back to input 3, and one that an input feeds; the monitor comes back by 7. */
    private Session session(int input, int planes, Listen listen) throws Exception {
        Session plain = new Sessions(folder)
                .track("one", "main", Signals.sine(500, -18, 48_000, 1))
                .build()
                .withRack(new Rack(
                        Driver.SIMULATED,
                        1,
                        List.of(),
                        List.of(),
                        List.of(new Cable(Optional.empty(), 3, 3), new Cable(Optional.empty(), 2, 7))))
                .withStrip(
                        Sessions.id("one"),
                        s -> s.withInserts(List.of(Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                                .withLoop(new Loop(Optional.empty(), 3, 3, Optional.empty(), Optional.empty())))));
        Session fed = InputEdits.newTrack(input, planes).apply(plain);
        return InputEdits.listen(fed.tracks().getLast(), listen).apply(fed);
    }

    private List<Finding> of(Session session) {
        return Findings.of(SessionMeasurement.asShown(session, folder, Progress.NONE)).stream()
                .filter(finding -> finding.rule() == Finding.Rule.RETURN_LISTENED_TO
                        || finding.rule() == Finding.Rule.LISTENING_HOWLS
                        || finding.rule() == Finding.Rule.EMPTY_TRACK
                        || finding.rule() == Finding.Rule.PORT_TWICE)
                .toList();
    }

    @ParameterizedTest
    @EnumSource(Listen.class)
    void a_return_that_is_listened_to_is_heard_twice_and_the_remedy_ends_that(Listen listen) throws Exception {
        // The second of a pair is enough.
        for (int input : new int[] {2, 3}) {
            Session session = session(input, input == 2 ? 2 : 1, listen);
            List<Finding> found = of(session);
            if (listen == Listen.NEVER) {
                assertThat(found).isEmpty();
                continue;
            }
            assertThat(found).extracting(Finding::rule).containsExactly(Finding.Rule.RETURN_LISTENED_TO);
            assertThat(found.getFirst().sentence()).contains("listens to what comes back to one");
            assertThat(of(found.getFirst().remedy().orElseThrow().apply(session)))
                    .isEmpty();
        }
    }

    @Test
    void a_known_way_from_the_monitor_to_an_input_is_told_only_while_the_track_reaches_the_monitor() throws Exception {
        Session session = session(7, 1, Listen.ALWAYS);
        List<Finding> found = of(session);
        assertThat(found).extracting(Finding::rule).containsExactly(Finding.Rule.LISTENING_HOWLS);
        assertThat(found.getFirst().sentence())
                .contains("Input 7")
                .contains("the monitor's Output 2")
                .contains("may howl");
        Track fed = session.tracks().getLast();
        assertThat(of(session.withStrip(fed.id(), s -> s.withOutput(new Output.Nowhere()))))
                .isEmpty();
        assertThat(of(session.withRack(session.rack().withMonitorPair(3)))).isEmpty();
        assertThat(of(session(7, 1, Listen.NEVER))).isEmpty();
    }

    @Test
    void a_track_that_waits_to_be_recorded_is_no_empty_track() throws Exception {
        Session session = session(5, 1, Listen.NEVER);
        assertThat(of(session)).isEmpty();
        Track fed = session.tracks().getLast();
        assertThat(of(InputEdits.noInput(fed).apply(session)))
                .extracting(Finding::rule)
                .containsExactly(Finding.Rule.EMPTY_TRACK);
    }
}
