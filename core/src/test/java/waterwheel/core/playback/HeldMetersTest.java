package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HeldMetersTest {
    private static final int RATE = 48_000;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId BUS = Sessions.id("bus");

    @TempDir
    Path folder;

    private final HeldMeters held = new HeldMeters();
    private Session session;

    @BeforeEach
    void two_tracks_into_a_bus() throws Exception {
        session = new Sessions(folder)
                .track("one", "bus", Signals.noise(0.1, 100, 1))
                .track("two", "main", Signals.noise(0.1, 100, 2))
                .bus("bus", "main")
                .build();
        held.use(session, "");
    }

    private static ChannelMeter fed(double gain, float[] signal) {
        ChannelMeter meter = new ChannelMeter(RATE, 1, gain);
        for (int at = 0; at < signal.length; at += 256) {
            int count = Math.min(256, signal.length - at);
            float[] block = new float[256];
            System.arraycopy(signal, at, block, 0, count);
            meter.hear(new float[][] {block}, at, count);
        }
        return meter;
    }

    @Test
    void a_steady_sine_reads_its_level_on_the_VU_and_its_peak_is_held() {
        // 2 s of -24 dBFS through 6 dB of trim: a sine at 0 VU for a reference of -18 dBFS.
        float[] tone = Signals.joined(Signals.sine(1_000, -24, RATE, 2), new float[RATE]);
        ChannelMeter sounding = fed(Math.pow(10, 6 / 20.0), Signals.sine(1_000, -24, RATE, 2));
        assertThat(sounding.vuDbfs()).isCloseTo(-18, within(0.05));
        ChannelMeter fallen = fed(Math.pow(10, 6 / 20.0), tone);
        assertThat(fallen.vuDbfs()).isLessThan(-40);
        assertThat(fallen.peakDbfs()).isCloseTo(-18, within(0.01));
        assertThat(fallen.overs()).isZero();
    }

    @Test
    void overs_are_counted_with_their_places_and_peaks() {
        float[] signal = new float[2 * RATE];
        signal[10_000] = 1.5f;
        signal[10_100] = -2f; // 2 ms later: the same over
        signal[60_000] = -1.2f;
        signal[70_000] = 1f; // full scale is not over it
        ChannelMeter meter = fed(1, signal);
        held.take(Map.of(ONE, meter));
        HeldMeters.Reading reading = held.of(ONE);
        assertThat(reading.overs()).isEqualTo(2);
        List<HeldMeters.Over> places = reading.places();
        assertThat(places.get(0).atSeconds()).isCloseTo(10_000.0 / RATE, within(1e-9));
        assertThat(places.get(0).peakDbfs()).isCloseTo(20 * Math.log10(2), within(1e-4));
        assertThat(places.get(1).atSeconds()).isCloseTo(1.25, within(1e-9));
    }

    @Test
    void a_change_upstream_begins_a_meter_anew_and_says_so_and_others_go_on() {
        ChannelMeter loud = fed(1, Signals.sine(1_000, 3, RATE, 0.5));
        held.take(Map.of(ONE, loud, TWO, loud, BUS, loud));
        Session trimmed = Edits.trim(session.channel(ONE), -6).apply(session);
        held.use(trimmed, "Trim of one");
        assertThat(held.of(ONE).overs()).isZero();
        assertThat(held.of(ONE).peakDbfs()).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(held.of(ONE).resetBy()).hasValue("Trim of one");
        assertThat(held.of(BUS).resetBy()).hasValue("Trim of one");
        assertThat(held.of(TWO).overs()).isPositive();
        assertThat(held.of(TWO).resetBy()).isEmpty();
        // What still plays for a moment belongs to before the change.
        held.take(Map.of(ONE, loud, TWO, loud, BUS, loud));
        assertThat(held.of(ONE).overs()).isZero();
    }

    @Test
    void what_was_held_stays_while_the_player_goes_on_with_other_meters() {
        held.take(Map.of(TWO, fed(1, Signals.sine(1_000, 3, RATE, 0.5))));
        int overs = held.of(TWO).overs();
        Session faded = Edits.fader(session.channel(ONE), -3).apply(session);
        held.use(faded, "Fader of one");
        held.take(Map.of(TWO, fed(1, Signals.sine(1_000, -20, RATE, 0.5))));
        assertThat(held.of(TWO).overs()).isEqualTo(overs);
        assertThat(held.of(TWO).peakDbfs()).isCloseTo(3, within(0.01));
        // A channel's own fader comes after its meter; the bus behind it hears it.
        assertThat(held.of(ONE).resetBy()).isEmpty();
        held.reset();
        assertThat(held.of(TWO).overs()).isZero();
    }

    @Test
    void every_setting_before_the_metered_place_counts_and_none_behind_it() {
        held.take(Map.of(
                ONE,
                fed(1, Signals.sine(100, -3, RATE, 0.1)),
                BUS,
                fed(1, Signals.sine(100, -3, RATE, 0.1)),
                Sessions.MAIN,
                fed(1, Signals.sine(100, -3, RATE, 0.1))));
        held.use(Edits.mute(session.channel(TWO), true).apply(session), "Mute of two");
        assertThat(held.of(Sessions.MAIN).resetBy()).hasValue("Mute of two");
        assertThat(held.of(BUS).resetBy()).isEmpty();
        assertThat(held.of(ONE).resetBy()).isEmpty();
    }
}
