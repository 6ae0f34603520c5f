package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static waterwheel.core.levels.MeasuredSongs.assertSame;
import static waterwheel.core.levels.MeasuredSongs.levels;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Delay;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Processors;
import waterwheel.core.processing.Reverb;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

/** What is measured from a milestone on against what is measured from the song's beginning, to the bit. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MilestonesTest {
    private static final int RATE = Sessions.RATE;
    private static final int SECONDS = 22;
    private static final int FRAMES = RATE * SECONDS - 777;
    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());
    private static final List<ChannelId> TRACKS =
            List.of(Sessions.id("early"), Sessions.id("wide"), Sessions.id("late"));

    @TempDir
    Path folder;

    @RegisterExtension
    final MeasuredSongs songs = new MeasuredSongs();

    /** Three tracks, one of which begins late, through two buses with processors into main with one. */
    private Session session(List<ProcessorKind> kinds) throws Exception {
        Session plain = new Sessions(folder)
                .track("early", "band", Signals.noise(0.2, FRAMES, 1))
                .track("wide", "hall", Signals.noise(0.2, FRAMES, 2), Signals.noise(0.1, FRAMES, 3))
                .track("late", "band", Signals.noise(0.3, 8 * RATE, 4))
                .bus("band", "main")
                .bus("hall", "main")
                .build();
        Session started = plain.withChannel(TRACKS.get(2), c -> ((Track) c)
                .withClips(((Track) c)
                        .clips().stream()
                                .map(clip -> clip.withStartFrames(13 * RATE + 17))
                                .toList()));
        return started.withStrip(TRACKS.get(0), s -> s.withSends(List.of(Send.toBus(Sessions.id("hall"), -6))))
                .withStrip(Sessions.id("band"), s -> s.withInserts(inserts(kinds.subList(0, 2))))
                .withStrip(Sessions.id("hall"), s -> s.withInserts(inserts(kinds.subList(2, 3))))
                .withStrip(Sessions.MAIN, s -> s.withInserts(inserts(kinds.subList(3, 4))));
    }

    private static List<Insert> inserts(List<ProcessorKind> kinds) {
        List<Insert> inserts = new ArrayList<>();
        for (ProcessorKind kind : kinds) {
            inserts.add(Insert.of(new SlotId(kind.key() + inserts.size()), kind));
        }
        return inserts;
    }

    private SongMeasure measure(Session session, Detail buses) {
        return measure(session, buses, 1 << 28);
    }

    private SongMeasure measure(Session session, Detail buses, long noteBytes) {
        return measure(session, Detail.EVERYTHING, buses, MeasureCache.none(), noteBytes);
    }

    private SongMeasure measure(Session session, Detail most, Detail least, MeasureCache cache, long noteBytes) {
        return songs.open(session, folder, most, least, cache, noteBytes, 2);
    }

    private static CurvePoint point(SplittableRandom random, Control control, int from) {
        return new CurvePoint(
                random.nextLong(from, FRAMES),
                random.nextDouble(control.least(), control.most()),
                SHAPES.get(random.nextInt(SHAPES.size())));
    }

    /** Some change that an engineer might make: most of them hold from somewhere in the song on. */
    private static Session changed(Session session, SplittableRandom random) {
        List<Channel> channels = session.channels();
        Channel channel = channels.get(random.nextInt(channels.size()));
        ChannelId track = TRACKS.get(random.nextInt(TRACKS.size()));
        return switch (random.nextInt(9)) {
            case 0 -> session.withStrip(track, s -> s.withFaderDb(random.nextDouble(-20, 6)));
            case 1 -> session.withStrip(track, s -> s.withMuted(!s.muted()));
            case 2 ->
                session.withChannel(track, c -> {
                    Clip clip = ((Track) c).clips().getFirst();
                    return ((Track) c).withClips(List.of(clip, clip.withStartFrames(random.nextLong(14 * RATE))));
                });
            case 3 -> ridden(session, channel.id(), random, 0);
            default -> {
                List<ControlId> ridden = Controls.ridden(session);
                ControlId id = ridden.get(random.nextInt(ridden.size()));
                Ride ride = Controls.ride(session, id).orElseThrow();
                Control control = Controls.control(session, id);
                yield Controls.with(session, id, ride.withCurve(ride.curve().with(point(random, control, FRAMES / 3))));
            }
        };
    }

    /** Has some control of a channel ridden, which may have been so before. */
    private static Session ridden(Session session, ChannelId channel, SplittableRandom random, int from) {
        List<ControlId> controls = Controls.of(session, channel);
        ControlId id = controls.get(random.nextInt(controls.size()));
        Control control = Controls.control(session, id);
        return Controls.with(
                session,
                id,
                Ride.of(Curve.NONE
                        .with(point(random, control, from))
                        .with(point(random, control, from))
                        .with(new CurvePoint(0, control.most(), CurvePoint.Shape.LINE))));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void changes_measured_from_where_they_are_heard_come_to_what_measuring_anew_comes_to(long seed) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        int late = 0;
        List<ProcessorKind> kinds = slotKinds();
        List<ProcessorKind> some = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            some.add(kinds.get((int) (4 * seed + i) % kinds.size()));
        }
        Session session = session(some);
        for (Channel channel : session.channels()) {
            session = ridden(ridden(session, channel.id(), random, 0), channel.id(), random, 0);
        }
        SongMeasure going = measure(session, Detail.LOUDNESS);
        SongMeasure beginning = measure(session, Detail.LOUDNESS);
        levels(going, session);
        levels(beginning, session);
        for (int edit = 0; edit < 6; edit++) {
            session = changed(session, random);
            beginning.use(beginning.media());
            assertSame(levels(going, session), levels(beginning, session), "edit " + edit);
            assertThat(beginning.begunAt()).isZero();
            late += going.begunAt() > 0 ? 1 : 0;
        }
        assertThat(late).as("changes that were measured from later on").isPositive();
    }

    private static Session withFader(Session session, String track, CurvePoint... points) {
        return Controls.with(
                session, ControlId.ofStrip(Sessions.id(track), Strip.FADER.key()), Ride.of(new Curve(List.of(points))));
    }

    private static CurvePoint line(int second, double db) {
        return new CurvePoint((long) second * RATE, db, CurvePoint.Shape.LINE);
    }

    /** A session whose early track's fader comes to so many dB in the twentieth second, from -3 in the fifteenth. */
    private static Session endingAt(Session session, double db) {
        return withFader(session, "early", line(2, -3), line(15, -3), line(20, db));
    }

    @Test
    void a_change_is_measured_from_the_milestone_before_it_and_processors_go_on_from_there() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        Session ridden = endingAt(still, 0);
        Session lower = endingAt(still, -9);
        Session late = lower.withStrip(Sessions.id("late"), s -> s.withFaderDb(-7));
        Session early = lower.withStrip(Sessions.id("early"), s -> s.withTrimDb(1));
        SongMeasure song = measure(still, Detail.LEVELS);
        levels(song, ridden);
        assertThat(song.begunAt()).isZero();
        levels(song, lower);
        // Milestones lie four seconds and a little apart: the third is the last before the fifteenth second.
        assertThat(song.begunAt() / (double) RATE).isBetween(12.0, 13.0);
        levels(song, late);
        assertThat(song.begunAt() / (double) RATE)
                .as("nothing is played before")
                .isBetween(12.0, 13.0);
        levels(song, early);
        assertThat(song.begunAt()).isZero();
    }

    private static List<ProcessorKind> slotKinds() {
        return Processors.kinds().stream().filter(kind -> !kind.loops()).toList();
    }

    /** The late track with an insert whose mix is ridden through some points. */
    private static Session mixed(Session session, ProcessorKind kind, double outputDb, CurvePoint... points) {
        Insert insert = inserts(List.of(kind)).getFirst().withOutputDb(outputDb);
        Session with = session.withStrip(Sessions.id("late"), s -> s.withInserts(List.of(insert)));
        ControlId mix = ControlId.ofInsert(Sessions.id("late"), insert.id(), Insert.MIX.key());
        return Controls.with(with, mix, Ride.of(new Curve(List.of(points))));
    }

    /** Rides change at the third second, and the track is silent to the thirteenth. */
    @ParameterizedTest
    @MethodSource("slotKinds")
    void another_setting_of_a_processor_is_measured_from_where_there_is_sound_if_it_forgets_silence(ProcessorKind kind)
            throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        Session before = mixed(still, kind, 1, line(3, 0.2), line(14, 0.9));
        Session after = mixed(still, kind, 3, line(3, 0.7), line(14, 0.4));
        SongMeasure song = measure(before, Detail.LOUDNESS);
        levels(song, before);
        Map<Integer, LevelSeries> levels = levels(song, after);
        assertThat(song.begunAt() > 12 * RATE).isEqualTo(!Processors.of(kind).remembersSilence());
        assertSame(levels, levels(measure(after, Detail.LOUDNESS), after), kind.key());
    }

    @Test
    void a_processor_in_anothers_place_is_measured_from_the_beginning() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        // One works on all planes at once, the other on each by itself.
        Session before = mixed(still, Compressor.KIND, 1, line(3, 0.2));
        Session after = before.withStrip(
                Sessions.id("late"),
                s -> s.withInserts(s.inserts().stream()
                        .map(i -> i.withProcessor(Processor.usual(Equaliser.KIND)))
                        .toList()));
        SongMeasure song = measure(before, Detail.LOUDNESS);
        levels(song, before);
        Map<Integer, LevelSeries> levels = levels(song, after);
        assertThat(song.begunAt()).isZero();
        assertSame(levels, levels(measure(after, Detail.LOUDNESS), after), "another processor");
    }

    @Test
    void where_there_is_no_room_for_notes_a_change_is_measured_from_the_beginning() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Reverb.KIND, Delay.KIND));
        Session ridden = withFader(still, "wide", line(15, -3), line(20, 0));
        Session lower = withFader(still, "wide", line(15, -3), line(20, -9));
        for (long bytes : new long[] {0, 100_000, 1 << 28}) {
            SongMeasure song = measure(still, Detail.LEVELS, bytes);
            levels(song, ridden);
            Map<Integer, LevelSeries> levels = levels(song, lower);
            assertThat(song.begunAt() > 0).as("%d bytes", bytes).isEqualTo(bytes > 100_000);
            assertSame(levels, levels(measure(still, Detail.LEVELS, 0), lower), bytes + " bytes");
        }
    }

    /** A measurement as the window makes it, which knows what lies in the session's cache. */
    private SongMeasure opened(Session session) {
        return measure(session, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.in(folder), 1 << 28);
    }

    /** One that finds all levels of a session known, as it does when an engineer opens that again. */
    private SongMeasure openedAgain(Session session) {
        Plan plan = PlanCompiler.compile(session);
        SongMeasure first = opened(session);
        levels(first, session);
        first.keepMeasured(plan, () -> false);
        SongMeasure again = opened(session);
        BitSet all = StageLevels.wanted(plan);
        assertThat(again.known(plan, all)).as("all is known").hasSize(all.cardinality());
        levels(again, session);
        return again;
    }

    @Test
    void after_an_opening_that_knew_all_the_first_change_is_measured_from_where_it_is_heard() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        Session ridden = endingAt(still, 0);
        SongMeasure again = openedAgain(ridden);
        again.goOver(PlanCompiler.compile(ridden), Progress.NONE);
        Session lower = endingAt(still, -9);
        Map<Integer, LevelSeries> levels = levels(again, lower);
        assertThat(again.begunAt() / (double) RATE).isBetween(12.0, 13.0);
        assertSame(levels, levels(opened(lower), lower), "after going over it");
    }

    /** The buses before the limiter hear of nothing that remembers, and there is nothing to measure for them. */
    @Test
    void going_over_keeps_the_samples_of_buses_also_where_the_mix_alone_remembers() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Compressor.KIND, Limiter.KIND));
        Session limited = still.withStrip(Sessions.id("band"), s -> s.withInserts(List.of()))
                .withStrip(Sessions.id("hall"), s -> s.withInserts(List.of()));
        SongMeasure again = openedAgain(limited);
        Plan plan = PlanCompiler.compile(limited);
        again.standAt(plan);
        assertThat(again.keptBytes()).isZero();
        again.goOver(plan, Progress.NONE);
        assertThat(again.keptBytes()).isPositive();
    }

    @ParameterizedTest
    @ValueSource(doubles = {0.05, 0.5, 0.95})
    void going_over_that_is_ended_by_a_change_leaves_nothing_half_done(double part) throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        Session ridden = endingAt(still, 0);
        Plan plan = PlanCompiler.compile(ridden);
        SongMeasure again = openedAgain(ridden);
        assertThatExceptionOfType(CancellationException.class).isThrownBy(() -> again.goOver(plan, new StopsAt(part)));
        Session lower = endingAt(still, -9);
        assertSame(levels(again, lower), levels(opened(lower), lower), "ended at " + part);
        levels(again, ridden);
        again.goOver(plan, Progress.NONE);
        Session lowest = endingAt(still, -12);
        assertSame(levels(again, lowest), levels(opened(lowest), lowest), "gone over in the end");
        assertThat(again.begunAt() / (double) RATE).isBetween(12.0, 13.0);
    }

    @Test
    void what_a_change_noted_before_it_was_heard_holds_for_the_session_that_was_changed() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        Session ridden = endingAt(still, 0);
        SongMeasure again = openedAgain(ridden);
        levels(again, endingAt(still, -9));
        assertThat(again.begunAt()).as("nothing was noted before").isZero();
        levels(again, ridden);
        Session other = endingAt(still, -4);
        Map<Integer, LevelSeries> levels = levels(again, other);
        assertThat(again.begunAt() / (double) RATE).isBetween(12.0, 13.0);
        assertSame(levels, levels(opened(other), other), "another change of the same session");
    }

    @Test
    void after_files_were_opened_anew_nothing_is_taken_for_what_it_was() throws Exception {
        Session still = session(List.of(Compressor.KIND, Equaliser.KIND, Limiter.KIND, Compressor.KIND));
        SongMeasure song = measure(still, Detail.LEVELS);
        Session ridden = withFader(still, "early", line(15, -3), line(20, 0));
        levels(song, ridden);
        song.use(song.media());
        levels(song, withFader(still, "early", line(15, -3), line(20, -9)));
        assertThat(song.begunAt()).isZero();
    }
}
