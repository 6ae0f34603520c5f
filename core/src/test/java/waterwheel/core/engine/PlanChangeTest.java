package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** Up to where a changed plan is what it was, counted from where the change is. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PlanChangeTest {
    private static final long ALWAYS = Long.MAX_VALUE;
    private static final int FRAMES = 20_000;
    /** Before this the second track is silent. */
    private static final int ENTRY = 12_000;
    /** A control is told at most so many frames before where to go. */
    private static final int GRID = 32;

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_tracks_into_a_bus_into_main() throws Exception {
        session = new Sessions(folder)
                .track("first", "bus", Signals.noise(0.1, FRAMES, 1))
                .track("second", "bus", Signals.noise(0.1, FRAMES - ENTRY, 2))
                .bus("bus", "main")
                .build()
                .withChannel(Sessions.id("second"), c -> {
                    Clip clip = ((Track) c).clips().getFirst();
                    return ((Track) c).withClips(List.of(clip.withStartFrames(ENTRY)));
                })
                .withStrip(
                        Sessions.id("bus"), s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
        session = ridden(session, line(0, -2));
    }

    private static CurvePoint line(long frame, double db) {
        return new CurvePoint(frame, db, CurvePoint.Shape.LINE);
    }

    /** Has the first track's fader ridden. */
    private static Session ridden(Session session, CurvePoint... points) {
        Ride ride = Ride.of(new Curve(List.of(points)));
        return session.withStrip(
                Sessions.id("first"), strip -> strip.withRides(strip.rides().with("faderDb", ride)));
    }

    /** How far the mix is the same after a change. */
    private long sameMix(UnaryOperator<Session> change) {
        return same(change, PlanCompiler.compile(change.apply(session)).output());
    }

    private long same(UnaryOperator<Session> change, int index) {
        Plan before = PlanCompiler.compile(session);
        Session changed = change.apply(session);
        Plan now = PlanCompiler.compile(changed);
        try (Media media = Media.open(session, folder)) {
            long[] same = PlanChange.sameFrames(
                    now,
                    SignalKey.of(now, media),
                    before,
                    SignalKey.of(before, media),
                    i -> now.signals().get(i).id().channel().equals(Sessions.id("second")) ? ENTRY : 0);
            return same[index];
        }
    }

    @Test
    void what_changes_nothing_leaves_all_as_it_is() {
        assertThat(sameMix(s -> s)).isEqualTo(ALWAYS);
        assertThat(sameMix(s -> s.withChannel(Sessions.id("first"), c -> c.withName("Other"))))
                .isEqualTo(ALWAYS);
    }

    @Test
    void a_point_more_counts_from_the_point_before_it() {
        session = ridden(session, line(0, -2), line(9_000, -2), line(15_000, 0));
        assertThat(sameMix(s -> ridden(s, line(0, -2), line(9_000, -2), line(15_000, -7))))
                .isBetween(9_000L - GRID, 9_000L);
    }

    @Test
    void a_fader_counts_from_where_its_track_begins_to_sound() {
        assertThat(sameMix(s -> s.withStrip(Sessions.id("second"), strip -> strip.withFaderDb(-3))))
                .isEqualTo(ENTRY);
        assertThat(sameMix(s -> s.withStrip(Sessions.id("second"), strip -> strip.withMuted(true))))
                .isEqualTo(ENTRY);
        assertThat(sameMix(s -> s.withStrip(Sessions.id("first"), strip -> strip.withTrimDb(-3))))
                .isZero();
    }

    @Test
    void a_clip_counts_from_where_it_begins_before_or_after() {
        assertThat(sameMix(s -> moved(s, 8_000))).isEqualTo(8_000);
        session = moved(session, 8_000);
        assertThat(sameMix(s -> moved(s, ENTRY))).isEqualTo(8_000);
    }

    private static Session moved(Session session, long start) {
        return session.withChannel(Sessions.id("second"), c -> ((Track) c)
                .withClips(List.of(((Track) c).clips().getFirst().withStartFrames(start))));
    }

    @Test
    void another_setting_of_a_processor_counts_from_the_beginning() {
        assertThat(sameMix(s -> s.withStrip(
                        Sessions.id("bus"),
                        strip -> strip.withInserts(strip.inserts().stream()
                                .map(i -> i.withProcessor(i.processor().with("thresholdDb", -31)))
                                .toList()))))
                .isZero();
    }

    @Test
    void what_does_not_hear_the_change_is_the_same() {
        UnaryOperator<Session> lower = s -> s.withStrip(Sessions.id("first"), strip -> strip.withTrimDb(-3));
        Plan now = PlanCompiler.compile(lower.apply(session));
        assertThat(same(lower, now.first(Sessions.id("second")))).isEqualTo(ALWAYS);
        assertThat(same(lower, now.first(Sessions.id("bus")))).isZero();
    }

    @Test
    void a_song_of_another_length_is_another_song() {
        assertThat(sameMix(s -> moved(s, ENTRY + 500))).isZero();
    }
}
