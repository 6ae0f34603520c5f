package waterwheel.core.recording;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.Rack;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.testing.Sessions;
import waterwheel.core.work.Progress;

/** How far listening is from howling, by arithmetic. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FeedbackCheckTest {
    @TempDir
    Path folder;

    /** An input that a track takes to the main bus; a cable from an output of the monitor to it. */
    private Session session(int output, double inputDbu) throws Exception {
        Rack rack =
                new Rack(Driver.SIMULATED, 1, List.of(), List.of(), List.of(new Cable(Optional.empty(), output, 4)));
        Session session = new Sessions(folder)
                .bus("bus", "main")
                .build()
                .withRack(rack.withPort(rack.port(PortSide.INPUT, 4).withFullScaleDbu(inputDbu)));
        return InputEdits.newTrack(4, 1).apply(session);
    }

    private static FeedbackCheck.Found found(Session session) throws Exception {
        return FeedbackCheck.run(
                session,
                session.tracks().getLast(),
                new SimulatedInterface(session.rack(), false),
                Device.USUAL_BLOCK_FRAMES,
                Progress.NONE);
    }

    /** The room: 18 dBu out are as many dB below full scale in as the input's calibration says. */
    @ParameterizedTest
    @CsvSource({
        "1, 18, 0, 3.01, true",
        "2, 24, 0, 9.01, false",
        "1, 30, -10, 25.01, false",
        "2, 18, 6, -2.99, true",
        "1, 20, 0, 5.01, true"
    })
    void what_is_to_spare_is_the_room_and_the_faders_together(
            int output, double inputDbu, double faderDb, double spareDb, boolean warns) throws Exception {
        Session plain = session(output, inputDbu);
        Track fed = plain.tracks().getLast();
        FeedbackCheck.Found found = found(plain.withStrip(fed.id(), s -> s.withFaderDb(faderDb)));
        assertThat(found.roomDb().orElseThrow()).isCloseTo(18 - inputDbu, within(0.05));
        // A centred track is 3 dB lower on each side.
        assertThat(found.spareDb()).isCloseTo(spareDb, within(0.05));
        assertThat(found.sentence()).startsWith("Input 4 hears the monitor at");
        assertThat(found.warns()).isEqualTo(warns);
        assertThat(found.sentence().contains("headphones")).isEqualTo(warns);
        assertThat(found.sentence().contains("would howl")).isEqualTo(spareDb < 0);
    }

    @Test
    void through_a_bus_all_faders_count_and_what_goes_nowhere_cannot_howl() throws Exception {
        Session plain = session(1, 18);
        Track fed = plain.tracks().getLast();
        Session bus = plain.withStrip(fed.id(), s -> s.withOutput(Output.to(Sessions.id("bus"))))
                .withStrip(Sessions.id("bus"), s -> s.withFaderDb(-4))
                .withStrip(Sessions.MAIN, s -> s.withFaderDb(-2));
        assertThat(found(bus).spareDb()).isCloseTo(9.01, within(0.05));
        FeedbackCheck.Found nowhere = found(plain.withStrip(fed.id(), s -> s.withOutput(new Output.Nowhere())));
        assertThat(nowhere.warns()).isFalse();
        assertThat(nowhere.sentence()).contains("nothing of it goes back there");
    }

    @Test
    void an_input_that_hears_nothing_can_be_listened_to() throws Exception {
        FeedbackCheck.Found found = found(session(5, 18));
        assertThat(found.roomDb()).isEmpty();
        assertThat(found.warns()).isFalse();
        assertThat(found.sentence()).contains("Nothing that the monitor plays comes back by Input 4");
    }
}
