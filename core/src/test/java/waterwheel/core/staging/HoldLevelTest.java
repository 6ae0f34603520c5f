package waterwheel.core.staging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.Loudness;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HoldLevelTest {
    private static final int RATE = 48_000;
    private static final ChannelId VOICE = Sessions.id("voice");
    private static final ControlId FADER = ControlId.ofStrip(VOICE, "faderDb");

    @TempDir
    Path folder;

    /** Phrases of 3 s with rests of 1 s between them, at levels in dBFS. */
    private Session session(double... dbfs) throws Exception {
        float[][] parts = new float[2 * dbfs.length][];
        for (int i = 0; i < dbfs.length; i++) {
            parts[2 * i] = Signals.sine(997, dbfs[i], RATE, 3);
            parts[2 * i + 1] = Signals.silence(RATE, 1);
        }
        return new Sessions(folder)
                .track("voice", "main", Signals.joined(parts))
                .build();
    }

    private LevelSeries level(Session session) {
        return SessionMeasurement.of(session, folder, song -> song.at(session, VOICE, Stage.FADER, Progress.NONE));
    }

    private Optional<RideProposal> proposed(Session session, HoldLevel hold) {
        return SessionMeasurement.of(session, folder, song -> hold.of(song, session, VOICE, Progress.NONE));
    }

    private double[] phrases(Session session) {
        LevelSeries series = level(session);
        double[] all = new double[3];
        for (int i = 0; i < all.length; i++) {
            all[i] = Loudness.integratedLufs(series.during((4L * i) * RATE, (4L * i + 3) * RATE));
        }
        return all;
    }

    @Test
    void phrases_beyond_the_range_come_to_its_end_as_wholes_and_the_others_stay() throws Exception {
        Session session = session(-18, -25, -17);
        double own = Loudness.integratedLufs(level(session));
        double[] before = phrases(session);
        Session after = proposed(session, HoldLevel.USUAL).orElseThrow().after();
        double[] held = phrases(after);
        assertThat(held[0]).isCloseTo(Math.min(before[0], own + 2), within(0.02));
        assertThat(held[1]).isCloseTo(own - 2, within(0.02));
        assertThat(held[2]).isCloseTo(Math.min(before[2], own + 2), within(0.02));
        // Within a phrase the fader stands, and it has moved before the phrase begins.
        double in = Controls.reading(after, FADER, 5 * RATE);
        assertThat(Controls.reading(after, FADER, 4 * RATE)).isEqualTo(in);
        assertThat(Controls.reading(after, FADER, 7 * RATE - 1)).isEqualTo(in);
        assertThat(Controls.reading(after, FADER, 3 * RATE)).isEqualTo(Controls.reading(after, FADER, 0));
    }

    @Test
    void what_lies_within_the_range_needs_nothing_and_neither_does_silence() throws Exception {
        assertThat(proposed(session(-18, -19, -17), HoldLevel.USUAL)).isEmpty();
        assertThat(proposed(session(-200, -200), HoldLevel.USUAL)).isEmpty();
        assertThat(proposed(session(-18, -25, -17), HoldLevel.USUAL.withRangeLu(12)))
                .isEmpty();
    }

    @Test
    void it_is_added_to_what_is_written_and_keeps_the_offset() throws Exception {
        Session session = session(-18, -25, -17);
        Ride own = Ride.of(new Curve(List.of(new CurvePoint(0, -3, CurvePoint.Shape.LINE))))
                .withOffset(1);
        Session ridden = Controls.with(session, FADER, own);
        double gain = Controls.reading(
                proposed(session, HoldLevel.USUAL).orElseThrow().after(), FADER, 5 * RATE);
        RideProposal proposal = proposed(ridden, HoldLevel.USUAL).orElseThrow();
        assertThat(Controls.reading(proposal.after(), FADER, 5 * RATE)).isCloseTo(gain - 2, within(0.011));
        assertThat(Controls.ride(proposal.after(), FADER).orElseThrow().offset())
                .isEqualTo(1);
        // Phrases at -25 and at -17 dBFS.
        assertThat(proposal.changes()).singleElement().satisfies(change -> {
            assertThat(change.section()).isEqualTo("Whole song");
            assertThat(change.before()).isCloseTo(8, within(0.05));
            assertThat(change.after()).isLessThan(4.5);
        });
        assertThat(Controls.ride(proposal.after(), FADER).orElseThrow().curve().points())
                .hasSizeLessThan(8);
        // Once held, it needs nothing more.
        assertThat(proposed(proposal.after(), HoldLevel.USUAL.withRangeLu(2.6))).isEmpty();
    }

    @Test
    void a_long_phrase_is_taken_in_parts() throws Exception {
        Session session = new Sessions(folder)
                .track(
                        "voice",
                        "main",
                        Signals.joined(Signals.sine(997, -16, RATE, 8), Signals.sine(997, -26, RATE, 8)))
                .build();
        LevelSeries series = level(session);
        List<Activity> phrases = HoldLevel.USUAL.phrases(series);
        assertThat(phrases).hasSize(3).allSatisfy(p -> assertThat(p.to() - p.from())
                .isLessThanOrEqualTo(6L * RATE));
        assertThat(phrases.getFirst().from()).isZero();
        assertThat(phrases.getLast().to()).isEqualTo(16L * RATE);
        Curve curve = HoldLevel.USUAL.curve(series);
        assertThat(curve.at(14L * RATE)).isGreaterThan(3);
    }
}
