package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.units.Decibels;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PanLawChangeTest {
    @TempDir
    Path folder;

    /** Total gain of a mono channel over both sides, in dB. */
    private static double levelDb(PanLaw law, double position, double faderDb) {
        double[][] gains = Placement.CENTRE.withPosition(position).gains(law, 1);
        double l = gains[0][0];
        double r = gains[1][0];
        return 10 * Math.log10(l * l + r * r) + faderDb;
    }

    private Session session() throws Exception {
        float[] silence = new float[10];
        return new Sessions(folder)
                .track("centre", "main", silence)
                .track("hard", "main", silence)
                .track("wide", "main", silence, silence)
                .bus("return", "main")
                .build()
                .withStrip(
                        Sessions.id("hard"), s -> s.withPlacement(s.placement().withPosition(-1)));
    }

    @Test
    void as_it_is_centred_mono_moves_by_the_difference_of_the_laws() throws Exception {
        // From -3.01 to -6.02 dB on each side; hard left and a stereo source as recorded stay.
        PanLawChange change = PanLawChange.of(session(), PanLaw.MINUS_6, false);
        assertThat(change.moved()).hasSize(1);
        PanLawChange.Moved centre = change.moved().getFirst();
        assertThat(centre.channel()).isEqualTo(Sessions.id("centre"));
        assertThat(centre.lawDb()).isCloseTo(-3.01, within(0.005));
        assertThat(centre.monoDb()).isCloseTo(-3.01, within(0.005));
        assertThat(centre.faderDb()).isZero();
        Session after = change.edit().apply(session());
        assertThat(after.panLaw()).isEqualTo(PanLaw.MINUS_6);
        assertThat(after.channels()).isEqualTo(session().channels());
    }

    @Test
    void keeping_levels_moves_faders_and_sends_so_that_both_stay() throws Exception {
        Send post = Send.toBus(Sessions.id("return"), -10);
        Send pre = post.withPreFader(true);
        Send own = post.withPlacement(Optional.of(new Placement(-1, 1, Placement.Mode.PLACE)));
        Session before = session().withStrip(Sessions.id("centre"), s -> s.withSends(List.of(post, pre, own)));
        Session after = PanLawChange.of(before, PanLaw.MINUS_6, true).edit().apply(before);
        double by = 10 * Math.log10(2);
        assertThat(after.channel(Sessions.id("centre")).strip().faderDb()).isCloseTo(by, within(1e-9));
        List<Send> sends = after.channel(Sessions.id("centre")).strip().sends();
        assertThat(sends.get(0).levelDb()).as("follows the fader").isCloseTo(-10, within(1e-9));
        assertThat(sends.get(1).levelDb()).as("before the fader").isCloseTo(-10 + by, within(1e-9));
        assertThat(sends.get(2).levelDb()).as("hard left").isCloseTo(-10 - by, within(1e-9));
        assertThat(after.channel(Sessions.id("hard")).strip().faderDb()).isZero();
    }

    @Test
    void keeping_levels_moves_the_centred_send_of_a_channel_that_stands_where_no_law_moves_it() throws Exception {
        Send centred = Send.toBus(Sessions.id("return"), -10).withPlacement(Optional.of(Placement.CENTRE));
        Session before = session().withStrip(Sessions.id("hard"), s -> s.withSends(List.of(centred)));
        Session after = PanLawChange.of(before, PanLaw.MINUS_6, true).edit().apply(before);
        assertThat(after.channel(Sessions.id("hard")).strip().sends().getFirst().levelDb())
                .isCloseTo(-10 + 10 * Math.log10(2), within(1e-9));
    }

    @Test
    void a_fader_at_the_top_cannot_make_up_for_it_and_the_list_says_so() throws Exception {
        Session before = session().withStrip(Sessions.id("centre"), s -> s.withFaderDb(11));
        PanLawChange.Moved centre =
                PanLawChange.of(before, PanLaw.MINUS_6, true).moved().getFirst();
        assertThat(centre.faderDb()).isEqualTo(1);
        assertThat(centre.levelDb()).isCloseTo(-2.01, within(0.005));
    }

    @Property(tries = 200)
    void keeping_levels_keeps_the_level_of_every_position_under_every_law(
            @ForAll @DoubleRange(min = -1, max = 1) double position, @ForAll PanLaw from, @ForAll PanLaw to) {
        double change = levelDb(to, position, 0) - levelDb(from, position, 0);
        Session mono = Sessions.monoAt(position, from);
        Session after = PanLawChange.of(mono, to, true).edit().apply(mono);
        double fader = after.channels().getFirst().strip().faderDb();
        assertThat(fader).isCloseTo(-change, within(1e-6));
        assertThat(Decibels.toFactor(levelDb(to, position, fader)))
                .isCloseTo(Decibels.toFactor(levelDb(from, position, 0)), within(1e-9));
    }
}
