package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RideFindingsTest {
    private static final ControlId FADER = ControlId.ofStrip(Sessions.id("one"), "faderDb");
    private static final Set<Finding.Rule> RULES = Set.of(
            Finding.Rule.RIDE_CLICKS, Finding.Rule.RIDE_AT_END, Finding.Rule.RIDE_UNHEARD, Finding.Rule.RIDE_STANDS);

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void one_track() throws Exception {
        session = new Sessions(folder)
                .track("one", "main", Signals.noise(0.1, 240_000, 1))
                .build();
    }

    private static CurvePoint line(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.LINE);
    }

    private Session ridden(ControlId id, CurvePoint... points) {
        return Controls.with(session, id, Ride.of(new Curve(List.of(points))));
    }

    private static List<Finding> of(Session session) {
        return Findings.of(SessionLevels.pending(session)).stream()
                .filter(f -> RULES.contains(f.rule()))
                .toList();
    }

    /** A remedy that is applied leaves nothing to be found. */
    private static Finding only(Session session, Finding.Rule rule) {
        List<Finding> found = of(session);
        assertThat(found).extracting(Finding::rule).containsExactly(rule);
        found.getFirst().remedy().ifPresent(remedy -> assertThat(of(remedy.apply(session)))
                .isEmpty());
        return found.getFirst();
    }

    @Test
    void a_line_that_is_too_fast_clicks_and_a_jump_does_not() {
        Finding found = only(ridden(FADER, line(48_000, 0), line(48_100, -20)), Finding.Rule.RIDE_CLICKS);
        assertThat(found.sentence()).contains("20.0 dB within 2.1 ms at 0:01.0");
        assertThat(of(ridden(FADER, line(48_000, 0), line(48_240, -20)))).isEmpty();
        assertThat(of(ridden(FADER, new CurvePoint(48_000, 0, CurvePoint.Shape.HOLD), line(48_100, -20))))
                .isEmpty();
    }

    @Test
    void a_ride_of_several_points_that_never_moves_is_told_and_a_fresh_one_is_not() {
        only(ridden(FADER, line(0, -3), line(48_000, -3)), Finding.Rule.RIDE_STANDS);
        assertThat(of(ridden(FADER, line(0, -3)))).isEmpty();
    }

    @Test
    void a_fader_that_is_asked_for_more_than_it_has_is_told_after_a_moment() {
        Session high = ridden(FADER, line(0, 8), line(96_000, 11));
        assertThat(of(high)).isEmpty();
        Session more = Controls.with(
                high, FADER, Controls.ride(high, FADER).orElseThrow().withOffset(3));
        only(more, Finding.Rule.RIDE_AT_END);
    }

    @Test
    void a_ride_under_a_mute_or_a_bypass_is_heard_by_nobody() {
        Session moving = ridden(FADER, line(0, 0), line(48_000, -6));
        only(moving.withStrip(FADER.owner(), s -> s.withMuted(true)), Finding.Rule.RIDE_UNHEARD);
        SlotId slot = new SlotId("eq");
        session = session.withStrip(
                FADER.owner(),
                s -> s.withInserts(List.of(Insert.of(slot, Equaliser.KIND).withBypassed(true))));
        only(
                ridden(ControlId.ofInsert(FADER.owner(), slot, "bell1Db"), line(0, 0), line(48_000, -6)),
                Finding.Rule.RIDE_UNHEARD);
    }
}
