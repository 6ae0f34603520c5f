package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Curves that belong to clips, against plain arithmetic. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ClipRidesTest {
    private static final int FRAMES = 30_000;
    private static final double NULL = 1e-6;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ControlId.Part STRIP = new ControlId.OfStrip();
    private static final SlotId SLOT = new SlotId("1");

    @TempDir
    Path folder;

    private static CurvePoint line(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.LINE);
    }

    private static ClipRide fader(CurvePoint... points) {
        return new ClipRide(STRIP, "faderDb", new Curve(List.of(points)));
    }

    private static Clip clip(Clip file, long start, long frames, ClipRide... rides) {
        return new Clip(file.source(), start, start, frames, 0).withRides(List.of(rides));
    }

    /** One track hard left, whose clips lie where their file has them. */
    private Session session(float[] samples, UnaryOperator<Clip> first, int from, int to, ClipRide... second)
            throws Exception {
        Session session = new Sessions(folder).track("one", "main", samples).build();
        Clip file = ((Track) session.channel(ONE)).clips().getFirst();
        List<Clip> clips = new ArrayList<>(List.of(first.apply(file)));
        if (to > from) {
            clips.add(clip(file, from, to - from, second));
        }
        return session.withChannel(ONE, c -> ((Track) c).withClips(clips))
                .withStrip(ONE, s -> s.withPlacement(Placement.CENTRE.withPosition(-1)));
    }

    /** Straight in dB between points, holding the ends. */
    private static double at(long[][] points, double frame) {
        if (frame <= points[0][0]) {
            return points[0][1];
        }
        for (int i = 0; i + 1 < points.length; i++) {
            if (frame < points[i + 1][0]) {
                double part = (frame - points[i][0]) / (points[i + 1][0] - points[i][0]);
                return points[i][1] + part * (points[i + 1][1] - points[i][1]);
            }
        }
        return points[points.length - 1][1];
    }

    @Test
    void where_clips_overlap_the_one_that_starts_later_rules_and_outside_of_them_nothing_does() throws Exception {
        float[] samples = Signals.noise(0.4, FRAMES, 1);
        long[][] a = {{1_000, -6}, {9_000, 3}};
        long[][] b = {{0, 2}, {6_000, -8}};
        // The first lasts from 3,000 to 20,000, the second from 8,003 to 15,001.
        Session session = session(
                samples,
                file -> clip(file, 3_000, 17_000, fader(line(1_000, -6), line(9_000, 3))),
                8_003,
                15_001,
                fader(line(0, 2), line(6_000, -8)));
        float[][] mix = new Renders(folder).mix(session);

        TreeSet<Long> points = new TreeSet<>(List.of(
                0L, 2_999L, 3_000L, 4_000L, 8_002L, 8_003L, 12_000L, 14_003L, 15_000L, 15_001L, 19_999L, 20_000L));
        for (long n = 0; n <= FRAMES + 32; n += 32) {
            points.add(n);
        }
        double crossedFrom = 1;
        long jump = -1_000;
        List<Long> jumps = List.of(3_000L, 8_003L, 15_001L, 20_000L);
        double factor = 1;
        for (int n = 3_000 - 500; n < 20_000; n++) {
            if (jumps.contains((long) n)) {
                crossedFrom = factor(offset(a, b, n - 1, n));
                jump = n;
            }
            long begin = points.floor((long) n);
            long end = points.higher((long) n);
            double from = factor(offset(a, b, begin, begin));
            double to = factor(jumps.contains(end) ? offset(a, b, end - 1, end) : offset(a, b, end, end));
            double straight = from + (to - from) * (n - begin) / (end - begin);
            factor = n - jump < 240 ? crossedFrom + (n - jump) / 240.0 * (straight - crossedFrom) : straight;
            double sum = (n >= 3_000 && n < 20_000 ? samples[n] : 0) + (n >= 8_003 && n < 15_001 ? samples[n] : 0);
            assertThat((double) mix[0][n]).as("frame %d", n).isCloseTo(factor * sum, within(NULL));
        }
    }

    private static double factor(double db) {
        return Math.pow(10, db / 20);
    }

    /** What the clips add at a frame; at a jump what they add just before it, where that is the frame that rules. */
    private static double offset(long[][] a, long[][] b, long ruling, long frame) {
        if (ruling >= 8_003 && ruling < 15_001) {
            return at(b, (double) (Math.min(ruling, frame) - 8_003));
        }
        return ruling >= 3_000 && ruling < 20_000 ? at(a, (double) (Math.min(ruling, frame) - 3_000)) : 0;
    }

    @Test
    void a_clips_curve_lies_on_top_of_the_channels_ride_and_not_of_a_silent_fader() throws Exception {
        float[] samples = Signals.noise(0.4, FRAMES, 1);
        Session session = session(samples, file -> file.withRide(fader(line(0, -4))), 0, 0);
        ControlId id = ControlId.ofStrip(ONE, "faderDb");
        Session ridden = Controls.with(session, id, Ride.of(new Curve(List.of(line(0, -3)))));
        float[][] mix = new Renders(folder).mix(ridden);
        assertThat((double) mix[0][20_000]).isCloseTo(factor(-7) * samples[20_000], within(NULL));
        assertThat(Controls.reading(ridden, id, 20_000)).isEqualTo(-7);

        Session silent = session.withStrip(ONE, s -> s.withFaderDb(Double.NEGATIVE_INFINITY));
        assertThat(new Renders(folder).mix(silent)[0]).containsOnly(0);
    }

    @Test
    void a_position_and_an_equaliser_of_a_clip_sound_like_the_channels_own_rides_of_the_same_offsets()
            throws Exception {
        float[] samples = Signals.noise(0.4, FRAMES, 1);
        Curve position = new Curve(List.of(line(0, 0.5), line(20_000, 1)));
        Curve bell = new Curve(List.of(line(0, -9), line(15_000, 6)));
        Curve octaves = new Curve(List.of(line(0, 1), line(29_999, -1)));
        Session bare = session(samples, file -> file, 0, 0)
                .withStrip(ONE, s -> s.withInserts(List.of(Insert.of(SLOT, Equaliser.KIND))));
        ControlId.Part slot = new ControlId.OfInsert(SLOT);
        Session clips = bare.withChannel(ONE, c -> ((Track) c)
                .withClips(((Track) c)
                        .clips().stream()
                                .map(clip -> clip.withRide(new ClipRide(STRIP, "position", position))
                                        .withRide(new ClipRide(slot, "bell1Db", bell))
                                        .withRide(new ClipRide(slot, "bell1Hz", octaves)))
                                .toList()));
        Session rides = bare;
        rides = offset(rides, ControlId.ofStrip(ONE, "position"), position);
        rides = offset(rides, ControlId.ofInsert(ONE, SLOT, "bell1Db"), bell);
        rides = offset(rides, ControlId.ofInsert(ONE, SLOT, "bell1Hz"), octaves);
        float[][] one = new Renders(folder).mix(clips);
        float[][] other = new Renders(folder).mix(rides);
        for (int n = 0; n < FRAMES - 1; n++) {
            assertThat((double) one[0][n]).as("frame %d", n).isCloseTo(other[0][n], within(NULL));
            assertThat((double) one[1][n]).as("frame %d", n).isCloseTo(other[1][n], within(NULL));
        }
        assertThat(one[0]).isNotEqualTo(new Renders(folder).mix(bare)[0]);
    }

    private static Session offset(Session session, ControlId id, Curve offsets) {
        return Controls.with(session, id, Controls.still(session, id).withOffsetCurve(offsets));
    }

    @Test
    void a_clips_curves_move_and_are_copied_with_it() throws Exception {
        float[] samples = Signals.noise(0.4, FRAMES, 1);
        Session session = session(samples, file -> clip(file, 0, 5_000, fader(line(0, -4), line(4_999, -4))), 0, 0);
        Track track = (Track) session.channel(ONE);
        ControlId id = ControlId.ofStrip(ONE, "faderDb");
        Session copied = ClipEdits.copy(track, 0, 7_000).apply(session);
        Session moved = ClipEdits.move(track, 0, 9_000).apply(copied);
        assertThat(Controls.reading(copied, id, 4_000)).isEqualTo(-4);
        assertThat(Controls.reading(copied, id, 6_000)).isEqualTo(0);
        assertThat(Controls.reading(copied, id, 7_000)).isEqualTo(-4);
        assertThat(Controls.reading(moved, id, 4_000)).isEqualTo(0);
        assertThat(Controls.reading(moved, id, 13_999)).isEqualTo(-4);
        assertThat(Controls.reading(moved, id, 14_000)).isEqualTo(0);
        assertThat(((Track) ClipEdits.remove(track, 0).apply(copied).channel(ONE)).clips())
                .hasSize(1);
    }

    @Test
    void a_clip_moves_one_insert_and_no_send() {
        assertThatThrownBy(() -> new ClipRide(new ControlId.OfSend(0), "levelDb", Curve.NONE))
                .hasMessageContaining("expected");
        assertThatThrownBy(() -> new ClipRide(STRIP, "muted", Curve.NONE)).hasMessageContaining("expected");
        Clip clip = new Clip(new waterwheel.core.sources.SourceId("a"), 0, 0, 10, 0);
        Curve curve = new Curve(List.of(line(0, 1)));
        Clip one = clip.withRide(new ClipRide(new ControlId.OfInsert(SLOT), "bell1Db", curve));
        assertThatThrownBy(() -> one.withRide(new ClipRide(new ControlId.OfInsert(new SlotId("2")), "bell1Db", curve)))
                .hasMessageContaining("several inserts");
    }

    @Test
    void an_insert_that_is_taken_out_takes_the_clips_curves_of_it_along() throws Exception {
        Curve curve = new Curve(List.of(line(0, 6)));
        ControlId.Part slot = new ControlId.OfInsert(SLOT);
        Session session = session(
                        Signals.noise(0.1, 1_000, 1),
                        file -> file.withRide(new ClipRide(slot, "bell1Db", curve))
                                .withRide(fader(line(0, -3))),
                        0,
                        0)
                .withStrip(ONE, s -> s.withInserts(List.of(Insert.of(SLOT, Equaliser.KIND))));
        Session without = FlowEdits.removeInsert(session.channel(ONE), SLOT).apply(session);
        Clip clip = ((Track) without.channel(ONE)).clips().getFirst();
        assertThat(clip.rides()).containsExactly(fader(line(0, -3)));
    }
}
