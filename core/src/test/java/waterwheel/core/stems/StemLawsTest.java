package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.Tuple;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import net.jqwik.api.lifecycle.AfterTry;
import net.jqwik.api.lifecycle.BeforeTry;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.errors.RenderException;
import waterwheel.core.metering.Figures;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Leftovers;
import waterwheel.core.work.Progress;

/** Stems add up to the mix whatever the faders, placements and buses are: no example, but the law. */
class StemLawsTest {
    private static final int FRAMES = 4_800;
    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());

    private Path folder = Path.of("");

    /** One track's settings; {@code depth} says through how many buses it reaches main. */
    record Settings(
            boolean stereo,
            int depth,
            double trimDb,
            double faderDb,
            double position,
            double width,
            Placement.Mode mode,
            boolean inverted,
            boolean muted) {}

    @BeforeTry
    void make_a_folder() throws Exception {
        folder = Files.createTempDirectory("stem-laws");
    }

    @AfterTry
    void remove_it() throws Exception {
        Leftovers.deleteTree(folder);
    }

    @Provide
    Arbitrary<Settings> settings() {
        Arbitrary<Double> trim = Arbitraries.doubles().between(-24, 6);
        Arbitrary<Double> fader =
                Arbitraries.oneOf(Arbitraries.doubles().between(-60, 12), Arbitraries.just(Double.NEGATIVE_INFINITY));
        Arbitrary<Double> position = Arbitraries.doubles().between(-1, 1);
        Arbitrary<Double> width = Arbitraries.doubles().between(0, 2);
        Arbitrary<Boolean> either = Arbitraries.of(true, false);
        return Combinators.combine(
                        either,
                        Arbitraries.integers().between(0, 2),
                        trim,
                        fader,
                        position,
                        width,
                        Arbitraries.of(Placement.Mode.values()),
                        either)
                .flatAs((stereo, depth, t, f, p, w, mode, inverted) -> Arbitraries.frequencyOf(
                                Tuple.of(5, Arbitraries.just(false)), Tuple.of(1, Arbitraries.just(true)))
                        .map(muted -> new Settings(stereo, depth, t, f, p, w, mode, inverted, muted)));
    }

    @Property(tries = 60)
    void float_stems_null_against_the_mix_to_minus_120_dB(
            @ForAll @Size(min = 1, max = 5) List<@From("settings") Settings> tracks,
            @ForAll PanLaw law,
            @ForAll boolean firstSoloed)
            throws Exception {
        Session session = session(tracks, law);
        if (firstSoloed) {
            session = session.withStrip(Sessions.id("track0"), s -> s.withSoloed(true));
        }
        assertNulls(session);
    }

    private void assertNulls(Session session) throws Exception {
        StemRequest request =
                new StemRequest(folder.resolve("out"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true);
        StemResult result;
        try {
            result = StemRender.render(session, folder, request, Progress.NONE);
        } catch (RenderException e) {
            assertThat(e.getMessage()).contains("nothing to render");
            return;
        }
        double loudest = result.proof().files().values().stream()
                .mapToDouble(Figures::samplePeakDbfs)
                .max()
                .orElseThrow();
        assertThat(result.proof().nulls()).as(result.proof().inWords()).isTrue();
        // Float keeps 24 bits: -144 dB below the loudest, and a handful of roundings on the way.
        assertThat(result.proof().residualPeakDbfs()).isLessThan(Math.max(loudest, -60) - 120);
    }

    private Session session(List<Settings> tracks, PanLaw law) throws Exception {
        Sessions made = new Sessions(folder).bus("group", "main").bus("inner", "group");
        String[] destinations = {"main", "group", "inner"};
        for (int i = 0; i < tracks.size(); i++) {
            Settings settings = tracks.get(i);
            float[] left = Signals.noise(0.5, FRAMES, 2 * i + 1);
            float[] right = Signals.noise(0.5, FRAMES, 2 * i + 2);
            String output = destinations[settings.depth()];
            if (settings.stereo()) {
                made.track("track" + i, output, left, right);
            } else {
                made.track("track" + i, output, left);
            }
        }
        Session session = made.build().withPanLaw(law);
        for (int i = 0; i < tracks.size(); i++) {
            Settings settings = tracks.get(i);
            Placement placement = new Placement(settings.position(), settings.width(), settings.mode());
            session = session.withStrip(Sessions.id("track" + i), strip -> strip.withTrimDb(settings.trimDb())
                    .withFaderDb(settings.faderDb())
                    .withPlacement(placement)
                    .withPolarityInverted(settings.inverted())
                    .withMuted(settings.muted()));
        }
        return session;
    }

    /** Curves of tracks, sends, VCAs and of main itself: what a stem goes through, the mix goes through. */
    @Property(tries = 20)
    void stems_add_up_through_rides_of_the_main_fader_too(
            @ForAll @Size(min = 2, max = 4) List<@From("settings") Settings> tracks,
            @ForAll @LongRange(min = 0, max = 1_000_000) long seed)
            throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        Session session = session(tracks, PanLaw.MINUS_3);
        for (Channel channel : session.channels()) {
            for (String key : List.of("faderDb", "position", "width", "trimDb")) {
                if (random.nextBoolean()) {
                    ControlId id = ControlId.ofStrip(channel.id(), key);
                    Control control = Controls.control(session, id);
                    List<CurvePoint> points = new ArrayList<>();
                    for (int at = random.nextInt(400); at < FRAMES; at += 1 + random.nextInt(1_500)) {
                        double value =
                                control.least() + random.nextDouble() * (Math.min(6, control.most()) - control.least());
                        points.add(new CurvePoint(at, value, SHAPES.get(random.nextInt(SHAPES.size()))));
                    }
                    session = Controls.with(session, id, Ride.of(new Curve(points)));
                }
            }
        }
        session = session.withStrip(
                Sessions.MAIN,
                s -> s.withRides(s.rides()
                        .with(
                                "faderDb",
                                Ride.of(new Curve(List.of(
                                        new CurvePoint(100, 0, CurvePoint.Shape.SMOOTH),
                                        new CurvePoint(4_000, -20, CurvePoint.Shape.LINE)))))));
        assertNulls(session);
    }
}
