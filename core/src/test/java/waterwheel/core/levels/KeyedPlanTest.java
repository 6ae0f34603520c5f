package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SplittableRandom;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.lifecycle.AfterTry;
import net.jqwik.api.lifecycle.BeforeTry;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.Signal;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Gate;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Processors;
import waterwheel.core.processing.Reverb;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** A change of one channel must compute no processor that does not hear it. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class KeyedPlanTest {
    private static final List<ProcessorKind> KINDS =
            List.of(Equaliser.KIND, Compressor.KIND, Limiter.KIND, Reverb.KIND, Gate.KIND);

    private Path folder = Path.of("");

    @BeforeTry
    void folder() throws IOException {
        folder = Files.createTempDirectory("keyed");
    }

    @AfterTry
    void remove() throws IOException {
        Leftovers.deleteTree(folder);
    }

    private Session session(SplittableRandom random) throws Exception {
        Sessions made = new Sessions(folder).bus("group", "main").bus("inner", "group");
        String[] destinations = {"main", "group", "inner"};
        for (int i = 0; i < 5; i++) {
            made.track("track" + i, destinations[random.nextInt(3)], Signals.noise(0.5, 100, i));
        }
        Session session = made.build();
        for (Channel channel : session.channels()) {
            List<Insert> inserts = new ArrayList<>();
            for (int slot = random.nextInt(3); slot > 0; slot--) {
                inserts.add(Insert.of(new SlotId("slot" + slot), KINDS.get(random.nextInt(KINDS.size()))));
            }
            boolean ridden = random.nextBoolean();
            session = session.withStrip(channel.id(), strip -> {
                Ride ride = Ride.of(new Curve(List.of(
                        new CurvePoint(10, 0, CurvePoint.Shape.LINE), new CurvePoint(90, -6, CurvePoint.Shape.LINE))));
                return strip.withInserts(inserts)
                        .withRides(ridden ? strip.rides().with("faderDb", ride) : strip.rides());
            });
        }
        return session;
    }

    @Property(tries = 60)
    void what_is_added_up_with_something_else_is_kept_behind_its_last_processor(
            @ForAll @LongRange(min = 0, max = 1_000_000) long seed) throws Exception {
        Session session = session(new SplittableRandom(seed));
        Plan plan = PlanCompiler.compile(session);
        try (Media media = Media.open(session, folder)) {
            KeyedPlan keyed = KeyedPlan.of(plan, media, Detail.EVERYTHING, Detail.LOUDNESS);
            for (int i = 0; i < plan.signals().size(); i++) {
                if (plan.signals().get(i) instanceof Signal.Processed) {
                    assertThat(meetsOthersUnkept(keyed, i))
                            .as("%s", plan.signals().get(i).id())
                            .isFalse();
                }
            }
        }
    }

    /** As the window asks for levels: loudness where it is shown, and no more than levels elsewhere. */
    @Property(tries = 30)
    void loudness_is_known_of_what_tracks_play_around_inserts_that_compare_and_of_the_mix(
            @ForAll @LongRange(min = 0, max = 1_000_000) long seed) throws Exception {
        Session session = session(new SplittableRandom(seed));
        Plan plan = PlanCompiler.compile(session);
        try (Media media = Media.open(session, folder);
                Team team = new Team(2);
                SongMeasure song = new SongMeasure(media, team, Detail.LOUDNESS, Detail.LEVELS, MeasureCache.none())) {
            Map<Integer, LevelSeries> series = song.measure(plan, StageLevels.wanted(plan), Progress.NONE);
            Map<ChannelId, ChannelLevels> levels = new StageLevels(team).of(session, plan, series);
            assertThat(of(levels, session.mainId()).at(Stage.OUTPUT).integratedLufs())
                    .as("mix")
                    .isNotNaN();
            for (Channel channel : session.channels()) {
                ChannelLevels known = of(levels, channel.id());
                if (channel instanceof Track) {
                    assertThat(known.first().integratedLufs())
                            .as("%s", channel.id())
                            .isNotNaN();
                }
                List<Insert> inserts = channel.strip().activeInserts();
                for (Insert insert : inserts) {
                    ChannelLevels.Around around = known.around(insert.id()).orElseThrow();
                    assertThat(around.after().averageDbfs())
                            .as("%s after", channel.id())
                            .isNotNaN();
                    if (!replaces(insert)) {
                        assertThat(around.before().integratedLufs())
                                .as("%s before", channel.id())
                                .isNotNaN();
                        assertThat(around.after().integratedLufs())
                                .as("%s after", channel.id())
                                .isNotNaN();
                    }
                }
                if (!inserts.isEmpty()
                        && replaces(inserts.getLast())
                        && !channel.id().equals(session.mainId())) {
                    assertThat(known.after(inserts.getLast().id()).orElseThrow().integratedLufs())
                            .as("%s, which is not asked for", channel.id())
                            .isNaN();
                }
            }
        }
    }

    /** Whether an insert gives out something else than it gets, so that its loudness is not compared. */
    private static boolean replaces(Insert insert) {
        return Processors.of(insert.processor().kind()).replaces();
    }

    private static ChannelLevels of(Map<ChannelId, ChannelLevels> levels, ChannelId channel) {
        return Objects.requireNonNull(levels.get(channel));
    }

    /** Whether a signal comes to a sum with others, by gains and delays alone, and is kept nowhere on its way. */
    private static boolean meetsOthersUnkept(KeyedPlan keyed, int index) {
        if (keyed.worthKeeping().get(index)) {
            return false;
        }
        List<Signal> signals = keyed.plan().signals();
        for (int i = index + 1; i < signals.size(); i++) {
            Signal hearing = signals.get(i);
            boolean hears = hearing.inputs().stream().anyMatch(edge -> edge.from() == index);
            boolean others = hearing instanceof Signal.Sum && hearing.inputs().size() > 1;
            if (hears && (others || (!(hearing instanceof Signal.Processed) && meetsOthersUnkept(keyed, i)))) {
                return true;
            }
        }
        return false;
    }
}
