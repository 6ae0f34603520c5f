package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.lifecycle.AfterTry;
import net.jqwik.api.lifecycle.BeforeTry;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.errors.RenderException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Gate;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Multiband;
import waterwheel.core.processing.Reverb;
import waterwheel.core.processing.Saturator;
import waterwheel.core.processing.TransientShaper;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/** Stems add up to the mix through everything that turns a bus up or down. */
class SharedGainTest {
    private static final int FRAMES = 9_600;
    private static final List<ProcessorKind> KINDS = List.of(
            Compressor.KIND,
            Gate.KIND,
            Limiter.KIND,
            Multiband.KIND,
            TransientShaper.KIND,
            Equaliser.KIND,
            Reverb.KIND);

    private Path folder = Path.of("");

    @BeforeTry
    void make_a_folder() throws Exception {
        folder = Files.createTempDirectory("shared-gain");
    }

    @AfterTry
    void remove_it() throws Exception {
        Leftovers.deleteTree(folder);
    }

    private Session tracks() throws Exception {
        Sessions made = new Sessions(folder)
                .bus("room", "main")
                .bus("group", "main")
                .bus("inner", "group")
                .track("one", "inner", Signals.noise(0.5, FRAMES, 1), Signals.noise(0.3, FRAMES, 2))
                .track("two", "inner", Signals.sine(220, -6, Sessions.RATE, (double) FRAMES / Sessions.RATE))
                .track("three", "group", Signals.noise(0.1, FRAMES, 3))
                .track("four", "main", Signals.sine(3_000, -20, Sessions.RATE, (double) FRAMES / Sessions.RATE));
        Session session = made.build();
        for (String id : List.of("one", "two", "four")) {
            session = session.withStrip(
                    Sessions.id(id), strip -> strip.withSends(List.of(Send.toBus(Sessions.id("room"), -6))));
        }
        return session;
    }

    private static Insert random(SplittableRandom random, int slot) {
        Insert insert = Insert.of(new SlotId("slot" + slot), KINDS.get(random.nextInt(KINDS.size())));
        for (Parameter parameter : insert.processor().kind().parameters()) {
            // Make-ups and drives of 24 dB in a row would be all that is heard.
            double most = parameter.unit().equals("dB") ? Math.min(6, parameter.most()) : parameter.most();
            if (parameter.choices().isEmpty()) {
                insert = insert.with(
                        parameter.key(),
                        random.nextDouble(parameter.least(), Math.nextUp(Math.max(parameter.least(), most))));
            }
        }
        if (insert.processor().kind().equals(Compressor.KIND) && random.nextBoolean()) {
            insert = insert.withRides(Rides.NONE.with(
                    "thresholdDb",
                    Ride.of(new Curve(List.of(
                            new CurvePoint(100, -10, CurvePoint.Shape.LINE),
                            new CurvePoint(FRAMES - 500, -50, CurvePoint.Shape.LINE))))));
        }
        return insert.withMix(random.nextBoolean() ? 1 : random.nextDouble()).withInputDb(random.nextDouble(-6, 6));
    }

    @Property(tries = 80)
    void they_null_against_the_mix_to_minus_120_dB(
            @ForAll @LongRange(min = 0, max = 1_000_000) long seed, @ForAll StemDivision.By by) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        Session session = tracks();
        for (Bus bus : session.buses()) {
            List<Insert> inserts = new ArrayList<>();
            for (int slot = random.nextInt(3); slot > 0; slot--) {
                inserts.add(random(random, slot));
            }
            session = session.withStrip(bus.id(), strip -> strip.withInserts(inserts));
        }
        StemResult result;
        try {
            result = render(session, division(random, session, by), Treatment.AS_MIX);
        } catch (RenderException e) {
            // A reverb on main with a long pre-delay.
            assertThat(e.getMessage()).contains("nothing to render");
            return;
        }
        double loudest = result.proof().files().values().stream()
                .mapToDouble(Figures::samplePeakDbfs)
                .max()
                .orElseThrow();
        assertThat(result.proof().residualPeakDbfs()).isLessThan(Math.max(loudest, -60) - 120);
        assertThat(result.proof().nulls()).as(result.proof().inWords()).isTrue();
    }

    private static StemDivision division(SplittableRandom random, Session session, StemDivision.By by) {
        List<ChannelId> some = session.channels().stream()
                .map(Channel::id)
                .filter(id -> !id.equals(Sessions.MAIN) && random.nextBoolean())
                .toList();
        return new StemDivision(by, random.nextBoolean(), List.of(new NamedStem(new ChannelId("some"), "Some", some)));
    }

    private StemResult render(Session session, StemDivision division, Treatment treatment) throws Exception {
        StemRequest request = new StemRequest(
                        folder.resolve("out"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true)
                .with(StemSettings.USUAL.withDivision(division).withTreatment(treatment));
        return StemRender.render(session, folder, request, Progress.NONE);
    }

    @Example
    void each_by_itself_they_do_not_and_the_bus_is_named() throws Exception {
        Session session = tracks().withStrip(
                        Sessions.id("group"),
                        strip -> strip.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND))));
        StemResult alone = render(session, StemDivision.TRACKS, Treatment.ALONE);
        assertThat(alone.proof().residualPeakDbfs()).isGreaterThan(-40);
        assertThat(alone.proof().processedTogether()).containsExactly("group");
        assertThat(alone.proof().inWords()).contains("group").contains("as the mix");
        StemResult shared = render(session, StemDivision.TRACKS, Treatment.AS_MIX);
        assertThat(shared.proof().residualPeakDbfs()).isLessThan(-120);
    }

    @Example
    void what_bends_the_signal_itself_cannot_be_shared_and_the_bus_is_named() throws Exception {
        Session session = tracks().withStrip(
                        Sessions.id("inner"),
                        strip -> strip.withInserts(List.of(
                                Insert.of(new SlotId("1"), Saturator.KIND).with("driveDb", 18),
                                Insert.of(new SlotId("2"), Compressor.KIND))));
        StemResult result = render(session, StemDivision.TRACKS, Treatment.AS_MIX);
        assertThat(result.proof().nulls()).isFalse();
        assertThat(result.proof().inWords()).contains("inner").contains("Take a stem of each bus");
        assertAddsUpInstead(session);
    }

    @Example
    void what_bends_the_mix_is_taken_before_it() throws Exception {
        Session session = tracks().withStrip(
                        Sessions.MAIN,
                        strip -> strip.withInserts(List.of(
                                Insert.of(new SlotId("1"), Saturator.KIND).with("driveDb", 18))));
        StemResult result = render(session, StemDivision.TRACKS, Treatment.AS_MIX);
        assertThat(result.proof().nulls()).isFalse();
        assertThat(result.proof().inWords()).contains("Take them before the main bus");
        assertAddsUpInstead(session);
    }

    @Example
    void where_nothing_else_helps_the_advice_is_to_bypass_it() throws Exception {
        Insert bent = Insert.of(new SlotId("1"), Saturator.KIND).with("driveDb", 18);
        Session session = tracks();
        for (String bus : List.of("group", "main")) {
            session = session.withStrip(Sessions.id(bus), strip -> strip.withInserts(List.of(bent)));
        }
        assertThat(Together.of(session, StemSettings.USUAL).instead()).isEmpty();
        assertThat(render(session, StemDivision.TRACKS, Treatment.AS_MIX)
                        .proof()
                        .inWords())
                .contains("group and Main treat")
                .contains("bypass it");
    }

    /** Advice that is given helps. */
    private void assertAddsUpInstead(Session session) throws Exception {
        StemSettings settings =
                Together.of(session, StemSettings.USUAL).instead().orElseThrow().settings();
        StemRequest request =
                new StemRequest(folder.resolve("instead"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true);
        assertThat(StemRender.render(session, folder, request.with(settings), Progress.NONE)
                        .proof()
                        .nulls())
                .isTrue();
    }
}
