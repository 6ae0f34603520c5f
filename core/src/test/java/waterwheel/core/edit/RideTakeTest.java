package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.RideTake.Behind;
import waterwheel.core.edit.RideTake.Release;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RideTakeTest {
    private static final ControlId FADER = ControlId.ofStrip(Sessions.id("one"), "faderDb");
    private static final ControlId MUTE = ControlId.ofStrip(Sessions.id("one"), "muted");

    @TempDir
    Path folder;

    private Session session;

    /** Written: -6 dB, with points at 1,000 and at 90,000. */
    @BeforeEach
    void a_fader_that_was_ridden_before() throws Exception {
        Session plain = new Sessions(folder).track("one", "main", new float[10]).build();
        session = Controls.with(
                plain,
                FADER,
                Ride.of(new Curve(List.of(
                        new CurvePoint(1_000, -6, CurvePoint.Shape.LINE),
                        new CurvePoint(90_000, -6, CurvePoint.Shape.LINE)))));
    }

    private RideTake take(Release release, Behind behind) {
        return new RideTake(session, release, behind, 0.1);
    }

    private static double read(Session session, long frame) {
        return Controls.reading(session, FADER, frame);
    }

    @Test
    void what_is_held_is_written_and_springs_back_to_what_was_there() {
        RideTake take = take(Release.SPRINGS_BACK, Behind.AS_WRITTEN);
        for (int i = 0; i <= 100; i++) {
            take.move(FADER, 10_000 + i * 100L, -6 + i * 0.1);
        }
        take.release(FADER, 20_000);
        Session after = take.stop(60_000).apply(session);
        assertThat(read(after, 9_990)).isCloseTo(-6, within(1e-9));
        assertThat(read(after, 15_000)).isCloseTo(-1, within(0.15));
        assertThat(read(after, 20_000)).isCloseTo(4, within(0.11));
        // Halfway back in 4,800 frames.
        assertThat(read(after, 22_400)).isCloseTo(-1, within(0.2));
        assertThat(read(after, 24_900)).isCloseTo(-6, within(1e-9));
        // A straight movement needs few points.
        assertThat(Controls.ride(after, FADER).orElseThrow().curve().points()).hasSizeLessThan(12);
    }

    @Test
    void one_that_stays_holds_until_the_stop_and_then_as_was_chosen() {
        for (Behind behind : Behind.values()) {
            RideTake take = take(Release.STAYS, behind);
            take.move(FADER, 10_000, -6);
            take.move(FADER, 12_000, -12);
            take.release(FADER, 12_100);
            Session after = take.stop(50_000).apply(session);
            assertThat(read(after, 40_000)).isCloseTo(-12, within(1e-9));
            assertThat(read(after, 60_000)).as("%s", behind).isEqualTo(behind == Behind.AS_WRITTEN ? -6 : -12);
            assertThat(read(after, 95_000)).as("%s", behind).isEqualTo(behind == Behind.TO_END ? -12 : -6);
        }
    }

    @Test
    void a_second_pass_replaces_only_where_the_control_was_held() {
        RideTake first = take(Release.SPRINGS_BACK, Behind.AS_WRITTEN);
        first.move(FADER, 10_000, 0);
        first.release(FADER, 20_000);
        first.move(FADER, 40_000, 3);
        first.release(FADER, 50_000);
        Session once = first.stop(60_000).apply(session);
        assertThat(read(once, 30_000)).isEqualTo(-6);
        RideTake second = new RideTake(once, Release.SPRINGS_BACK, Behind.AS_WRITTEN, 0.01);
        second.move(FADER, 44_000, 6);
        second.release(FADER, 45_000);
        Session twice = second.stop(60_000).apply(once);
        assertThat(read(twice, 15_000)).isEqualTo(read(once, 15_000));
        assertThat(read(twice, 42_000)).isEqualTo(read(once, 42_000));
        assertThat(read(twice, 44_500)).isCloseTo(6, within(1e-9));
        assertThat(read(twice, 48_000)).isCloseTo(read(once, 48_000), within(1e-9));
    }

    @Test
    void several_controls_are_one_step_and_a_rehearsal_leaves_nothing() {
        RideTake take = take(Release.SPRINGS_BACK, Behind.AS_WRITTEN);
        take.move(FADER, 10_000, 0);
        take.move(MUTE, 12_000, 1);
        take.release(MUTE, 14_000);
        take.release(FADER, 15_000);
        Session after = take.stop(60_000).apply(session);
        assertThat(Controls.reading(after, MUTE, 11_000)).isZero();
        assertThat(Controls.reading(after, MUTE, 13_000)).isEqualTo(1);
        assertThat(Controls.reading(after, MUTE, 30_000)).isZero();
        assertThat(take.cancel().apply(after)).isEqualTo(session);
    }

    @Test
    void what_is_written_lies_under_the_offsets_so_that_it_reads_what_the_hand_said() {
        Ride offset = Controls.ride(session, FADER).orElseThrow().withOffset(2);
        Session before = Controls.with(session, FADER, offset);
        RideTake take = new RideTake(before, Release.STAYS, Behind.AS_WRITTEN, 0.1);
        Session heard = take.move(FADER, 10_000, -9).apply(before);
        assertThat(read(heard, 12_000)).isEqualTo(-9);
        take.release(FADER, 20_000);
        Session after = take.stop(30_000).apply(heard);
        assertThat(read(after, 25_000)).isCloseTo(-9, within(1e-9));
        assertThat(Controls.ride(after, FADER).orElseThrow().offset()).isEqualTo(2);
        assertThat(read(after, 40_000)).isCloseTo(-4, within(1e-9));
    }

    @Test
    void a_switch_is_heard_at_once_and_springs_back_at_once() {
        RideTake take = take(Release.SPRINGS_BACK, Behind.AS_WRITTEN);
        Session heard = take.move(MUTE, 10_000, 1).apply(session);
        assertThat(Controls.reading(heard, MUTE, 10_000)).isEqualTo(1);
        assertThat(take.holds(MUTE)).isTrue();
        take.release(MUTE, 20_000);
        assertThat(take.holds(MUTE)).isFalse();
        Session after = take.stop(60_000).apply(heard);
        assertThat(Controls.reading(after, MUTE, 9_999)).isEqualTo(0);
        assertThat(Controls.reading(after, MUTE, 19_999)).isEqualTo(1);
        assertThat(Controls.reading(after, MUTE, 20_001)).isEqualTo(0);
    }
}
