package waterwheel.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.metering.Detail;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.SeriesMeter;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.Limiter;
import waterwheel.core.processing.Multiband;
import waterwheel.core.processing.Reverb;
import waterwheel.core.processing.Saturator;
import waterwheel.core.routing.Faders;
import waterwheel.core.routing.RenderOrder;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.stems.StemRender;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Sends, inserts, key inputs, VCAs, and that all of it arrives together. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowTest {
    private static final int FRAMES = 30_000;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId BUS = Sessions.id("bus");
    private static final ChannelId RETURN = Sessions.id("return");
    private static final SlotId SLOT = new SlotId("1");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void an_impulse_and_noise_with_a_bus_and_a_return() throws Exception {
        float[] impulse = new float[FRAMES];
        impulse[5_000] = 0.5f;
        session = new Sessions(folder)
                .track("one", "bus", impulse, impulse)
                .track("two", "main", Signals.noise(0.5, FRAMES, 2), Signals.noise(0.5, FRAMES, 3))
                .bus("bus", "main")
                .bus("return", "main")
                .build();
    }

    private float[][] mix(Session of, int threads, int block) {
        return mix(of, threads, block, false);
    }

    /** @param pipelined whether the song runs as one stretch instead of block by block */
    private float[][] mix(Session of, int threads, int block, boolean pipelined) {
        Plan plan = PlanCompiler.compile(of);
        int index = plan.output();
        int late = plan.latencies().get(index);
        BitSet wanted = new BitSet();
        wanted.set(index);
        float[][] out = new float[2][FRAMES + late];
        try (Media media = Media.open(of, folder);
                Team team = new Team(threads)) {
            PlanRun run = pipelined
                    ? PlanRun.ofStretch(plan, media, team, block, wanted)
                    : PlanRun.of(plan, media, team, block, wanted);
            run.listen(index, Signals.into(out));
            if (pipelined) {
                run.stretch(0, out[0].length, Progress.NONE);
            } else {
                for (int at = 0; at < out[0].length; at += block) {
                    run.process(at, Math.min(block, out[0].length - at));
                }
            }
        }
        return out;
    }

    private static Session with(Session session, ChannelId id, ProcessorKind kind) {
        return session.withStrip(id, strip -> {
            List<Insert> inserts = new ArrayList<>(strip.inserts());
            inserts.add(Insert.of(new SlotId("" + (inserts.size() + 1)), kind));
            return strip.withInserts(inserts);
        });
    }

    private static Session sending(Session session, ChannelId from, Send... sends) {
        return session.withStrip(from, strip -> strip.withSends(List.of(sends)));
    }

    private static Session muted(Session session, ChannelId id) {
        return session.withStrip(id, strip -> strip.withMuted(true));
    }

    @Test
    void parallel_paths_of_unlike_latency_add_up_to_the_sample() {
        Session parallel = muted(sending(session, ONE, Send.toBus(RETURN, 0)), TWO);
        // The limiter of one path and the saturator of another hold the signal up; neither changes it at this level.
        Session late = with(with(with(parallel, BUS, Limiter.KIND), BUS, Limiter.KIND), ONE, Limiter.KIND);
        int latency = PlanCompiler.compile(late)
                .latencies()
                .get(PlanCompiler.compile(late).output());
        assertThat(latency).isGreaterThan(300);
        float[][] plain = mix(parallel, 1, 512);
        float[][] compensated = mix(late, 1, 512);
        assertThat(plain[0][5_000]).isEqualTo(1f);
        for (int i = 0; i < FRAMES; i++) {
            assertThat((double) compensated[0][i + latency]).isCloseTo(plain[0][i], within(1e-6));
        }
    }

    @Test
    void a_render_drops_the_latency() throws Exception {
        Session late = with(muted(session, TWO), BUS, Limiter.KIND);
        Path file = Files.createDirectories(folder.resolve("renders")).resolve("mix.wav");
        StemRender.mix(late, folder, file, RenderFormat.WAV_32F, 0, false, false, Progress.NONE);
        try (AudioFile read = AudioFiles.open(file)) {
            assertThat(read.format().frames()).isEqualTo(FRAMES);
            float[][] samples = new float[2][FRAMES];
            read.reader(FRAMES).read(0, samples, 0, FRAMES);
            assertThat(samples[0][5_000]).isEqualTo(0.5f);
            assertThat(samples[0][4_999]).isZero();
        }
    }

    /** All kinds of ways at once: inserts one after the other, a key, a send, a convolution of each side by itself. */
    private Session full() {
        Session full = with(with(with(session, ONE, Saturator.KIND), BUS, Compressor.KIND), RETURN, Reverb.KIND);
        full = with(with(full, TWO, Multiband.KIND), Sessions.MAIN, Limiter.KIND);
        full = with(full, RETURN, Convolution.KIND);
        full = full.withStrip(
                RETURN,
                strip -> strip.withInserts(strip.inserts().stream()
                        .map(i -> i.processor().kind().responds()
                                ? i.withProcessor(i.processor()
                                                .withResponse(session.sources()
                                                        .getLast()
                                                        .id()))
                                        .withMix(0.3)
                                : i)
                        .toList()));
        return sending(full, TWO, Send.toBus(RETURN, -6), Send.toKey(BUS, SLOT));
    }

    @ParameterizedTest
    @CsvSource({
        "1, 64, false",
        "2, 64, false",
        "2, 480, false",
        "1, 1024, false",
        "2, 1024, false",
        "1, 480, true",
        "2, 64, true",
        "2, 480, true",
        "2, 1024, true",
        "2, 40000, true"
    })
    void neither_threads_nor_blocks_change_a_bit_of_a_full_flow(int threads, int block, boolean pipelined) {
        Session full = full();
        float[][] expected = mix(full, 1, 4_096);
        assertThat(mix(full, threads, block, pipelined)).isDeepEqualTo(expected);
        assertThat(Arrays.deepEquals(mix(muted(full, RETURN), 1, 4_096), expected))
                .isFalse();
    }

    /** Where several blocks are in work, some listeners are done by whoever computes their signal, and some are not. */
    @Test
    void what_is_measured_and_kept_on_the_way_is_what_is_heard_there() {
        Session full = full();
        Plan plan = PlanCompiler.compile(full);
        BitSet all = plan.heard();
        int frames = FRAMES + plan.mostLatency();
        Map<Integer, float[][]> heard = new HashMap<>();
        Map<Integer, SeriesMeter> meters = new HashMap<>();
        Map<Integer, KeptSignal> kept = new HashMap<>();
        try (Media media = Media.open(full, folder);
                SamplePool pool = new SamplePool();
                Team team = new Team(2)) {
            PlanRun run = PlanRun.ofStretch(plan, media, team, 480, all);
            all.stream().forEach(i -> {
                int planes = plan.signals().get(i).planes();
                float[][] out = new float[planes][frames];
                heard.put(i, out);
                SeriesMeter meter = new SeriesMeter(Sessions.RATE, planes, FRAMES, Detail.LEVELS);
                KeptSignal samples = new KeptSignal(pool, planes, frames);
                meters.put(i, meter);
                kept.put(i, samples);
                run.keep(i, samples, 0, frames);
                run.meter(i, meter, 0, FRAMES);
                run.listen(i, Signals.into(out));
            });
            run.stretch(0, frames, Progress.NONE);
            heard.forEach((i, out) -> {
                LevelSeries levels = Objects.requireNonNull(meters.get(i)).finish();
                int late = plan.latencies().get(i);
                for (int p = 0; p < out.length; p++) {
                    float[] read = new float[frames];
                    Objects.requireNonNull(kept.get(i)).read(p, 0, read, frames);
                    assertThat(read).as("%s kept", plan.signals().get(i).id()).isEqualTo(out[p]);
                    float most = 0;
                    for (int n = late; n < late + FRAMES; n++) {
                        most = Math.max(most, Math.abs(out[p][n]));
                    }
                    assertThat(levels.peak(p))
                            .as("%s measured", plan.signals().get(i).id())
                            .isEqualTo(most);
                }
            });
            kept.values().forEach(KeptSignal::close);
        }
    }

    /** A delay of samples in hand reads them from earlier on: it remembers nothing, and a run can begin anywhere. */
    @Test
    void what_is_delayed_is_taken_from_what_is_kept_to_the_same_bits() {
        Session full = full();
        Plan plan = PlanCompiler.compile(full);
        int frames = FRAMES + plan.mostLatency();
        BitSet delayed = new BitSet();
        BitSet sources = new BitSet();
        for (int i = 0; i < plan.signals().size(); i++) {
            if (plan.signals().get(i) instanceof Signal.Delayed late) {
                delayed.set(i);
                sources.set(late.from());
            }
        }
        assertThat(delayed.isEmpty()).isFalse();
        Map<Integer, KeptSignal> kept = new HashMap<>();
        try (Media media = Media.open(full, folder);
                SamplePool pool = new SamplePool()) {
            sources.stream()
                    .forEach(i -> kept.put(
                            i, new KeptSignal(pool, plan.signals().get(i).planes(), frames)));
            Map<Integer, float[][]> whole = heard(plan, media, delayed, kept, 0, frames);
            Plan quick = plan.withKept(kept::get);
            assertThat(quick.remembers(quick.reaching(delayed))).isFalse();
            int from = FRAMES / 2;
            Map<Integer, float[][]> late = heard(quick, media, delayed, Map.of(), from, frames);
            whole.forEach((i, planes) -> {
                for (int p = 0; p < planes.length; p++) {
                    float[] found = Objects.requireNonNull(late.get(i))[p];
                    assertThat(Arrays.mismatch(found, from, frames, planes[p], from, frames))
                            .as("%s", plan.signals().get(i).id())
                            .isEqualTo(-1);
                }
            });
            kept.values().forEach(KeptSignal::close);
        }
    }

    /** What some signals carry over a stretch, while others are kept. */
    private static Map<Integer, float[][]> heard(
            Plan plan, Media media, BitSet some, Map<Integer, KeptSignal> keeping, int from, int to) {
        BitSet wanted = (BitSet) some.clone();
        keeping.keySet().forEach(wanted::set);
        PlanRun run = PlanRun.ofStretch(plan, media, Team.alone(), 480, wanted);
        keeping.forEach((i, samples) -> run.keep(i, samples, from, to));
        Map<Integer, float[][]> heard = new HashMap<>();
        some.stream().forEach(i -> {
            float[][] out = new float[plan.signals().get(i).planes()][to];
            heard.put(i, out);
            run.listen(i, Signals.into(out));
        });
        run.stretch(from, to, Progress.NONE);
        return heard;
    }

    @ParameterizedTest
    @CsvSource({"false, -6", "true, 0"})
    void a_send_is_taken_before_or_after_the_fader(boolean preFader, double expected) {
        Session sent = sending(session, ONE, Send.toBus(RETURN, -6).withPreFader(preFader))
                .withStrip(ONE, s -> s.withFaderDb(-6))
                .withStrip(BUS, s -> s.withMuted(true));
        float[][] out = mix(muted(sent, TWO), 1, 512);
        assertThat(20 * Math.log10(out[0][5_000] / 0.5)).isCloseTo(-6 + expected, within(1e-4));
    }

    @Test
    void a_send_has_a_placement_of_its_own_and_is_muted_with_its_channel() {
        Send left = Send.toBus(RETURN, 0).withPlacement(Optional.of(new Placement(-1, 0, Placement.Mode.PLACE)));
        Session sent = muted(muted(sending(session, ONE, left), TWO), BUS);
        float[][] out = mix(sent, 1, 512);
        assertThat(out[1][5_000]).isZero();
        assertThat(out[0][5_000]).isEqualTo(1f);
        assertThat(mix(muted(sent, ONE), 1, 512)[0][5_000]).isZero();
        Session off = sending(sent, ONE, left.withOn(false));
        assertThat(mix(off, 1, 512)[0][5_000]).isZero();
    }

    @Test
    void a_soloed_track_is_heard_through_its_bus_and_its_return() {
        Session soloed = sending(session, ONE, Send.toBus(RETURN, 0)).withStrip(ONE, s -> s.withSoloed(true));
        float[][] out = mix(soloed, 1, 512);
        assertThat(out[0][5_000]).isEqualTo(1f);
        assertThat(out[0][100]).as("the other track").isZero();
    }

    @Test
    void a_key_turns_down_what_it_does_not_sound_in_and_goes_on_under_solo_and_mute() {
        // The noise of 'two' is the key of the compressor on the bus of 'one'.
        Session keyed = sending(with(session, BUS, Compressor.KIND), TWO, Send.toKey(BUS, SLOT));
        Session alone = keyed.withStrip(ONE, s -> s.withSoloed(true));
        double ducked = 20 * Math.log10(mix(alone, 1, 512)[0][5_000] / 0.5);
        assertThat(ducked).isBetween(-15.0, -8.0);
        assertThat(mix(muted(keyed, TWO), 1, 512)[0][5_000]).isEqualTo(mix(alone, 1, 512)[0][5_000]);
        Session silent = sending(keyed, TWO, Send.toKey(BUS, SLOT).withOn(false));
        float peak = mix(silent.withStrip(ONE, s -> s.withSoloed(true)), 1, 512)[0][5_000];
        assertThat(peak).as("an impulse alone is too short to be turned down").isGreaterThan(0.49f);
    }

    @Test
    void a_track_can_take_its_signal_from_another_channel_before_or_after_its_fader() {
        Session tapped = FlowEdits.addTapped(session.channel(ONE), Tap.Point.POST_FADER)
                .apply(muted(session, TWO))
                .withStrip(ONE, s -> s.withFaderDb(-6).withOutput(new Output.Nowhere()));
        ChannelId made = tapped.channels().get(1).id();
        assertThat(mix(tapped, 1, 512)[0][5_000]).isCloseTo(0.5f * 0.501187f, within(1e-5f));
        Session pre =
                tapped.withChannel(made, c -> ((Track) c).withFeed(new Feed.Tapped(new Tap(ONE, Tap.Point.PRE_FADER))));
        assertThat(mix(pre, 1, 512)[0][5_000]).isEqualTo(0.5f);
        assertThat(mix(muted(pre, ONE), 1, 512)[0][5_000])
                .as("mute silences all")
                .isZero();
        // Soloed, it is heard with what it is fed by.
        Session soloed = pre.withStrip(made, s -> s.withSoloed(true));
        assertThat(mix(soloed, 1, 512)[0][5_000]).isEqualTo(0.5f);
    }

    @Test
    void a_tap_that_would_close_a_loop_is_refused_in_words() {
        Session looped =
                FlowEdits.addTapped(session.channel(BUS), Tap.Point.PRE_FADER).apply(session);
        assertThatExceptionOfType(RoutingException.class)
                .isThrownBy(() -> Edits.output(looped, looped.channel(lastTrack(looped)), Output.to(BUS)))
                .withMessageContaining("bus tapped");
        Session ofTheMix =
                FlowEdits.addTapped(session.main(), Tap.Point.POST_FADER).apply(session);
        assertThat(RenderOrder.of(ofTheMix)).isInstanceOf(RenderOrder.Ordered.class);
    }

    private static ChannelId lastTrack(Session of) {
        return of.tracks().getLast().id();
    }

    @Test
    void what_goes_to_an_interface_pair_is_not_in_the_mix_and_its_level_is_known() {
        Session direct = session.withStrip(
                ONE, s -> s.withOutput(new Output.ToInterface(2)).withTrimDb(12));
        assertThat(mix(muted(direct, TWO), 1, 512)[0]).containsOnly(0f);
        SessionLevels levels = SessionMeasurement.of(direct, folder, Progress.NONE);
        double peak = 20 * Math.log10(0.5) + 12;
        assertThat(Objects.requireNonNull(levels.pairs().get(2)).samplePeakDbfs())
                .isCloseTo(peak, within(1e-4));
        assertThat(Findings.of(levels))
                .filteredOn(f -> f.rule() == Finding.Rule.OUTPUT_CLIPS)
                .singleElement()
                .satisfies(f -> assertThat(f.sentence()).contains("Outputs 3\u20134", "+6.0 dBFS"));
    }

    @Test
    void a_loop_over_a_send_or_a_key_is_told_in_words() {
        Session bad = sending(session, RETURN, Send.toBus(BUS, 0))
                .withStrip(BUS, s -> s.withSends(List.of(Send.toBus(RETURN, 0))));
        assertThat(RenderOrder.of(bad))
                .isInstanceOfSatisfying(RenderOrder.Loop.class, loop -> assertThat(loop.inWords(bad))
                        .contains("bus → return"));
        assertThatIllegalArgumentException()
                .isThrownBy(() -> sending(session, ONE, Send.toKey(BUS, SLOT)))
                .withMessageContaining("an insert with a key input");
    }

    @Test
    void VCAs_add_up_and_a_muted_one_silences_its_members() {
        ChannelId low = Sessions.id("low");
        ChannelId high = Sessions.id("high");
        Session moved = muted(session, TWO)
                .withVcas(List.of(
                        new Vca(low, "Low", -3, false, List.of(ONE), List.of()),
                        new Vca(high, "High", -4, false, List.of(low), List.of())));
        assertThat(20 * Math.log10(mix(moved, 1, 512)[0][5_000] / 0.5)).isCloseTo(-7, within(1e-4));
        Session exempt = moved.withVcas(List.of(
                moved.vcas().getFirst().withExempt(List.of(ONE)), moved.vcas().getLast()));
        // The one that leaves it alone moves it by no way; its others still do.
        assertThat(20 * Math.log10(mix(exempt, 1, 512)[0][5_000] / 0.5)).isCloseTo(-4, within(1e-4));
        assertThat(Faders.of(moved).movedBy(moved.vcas().getLast())).containsExactly(ONE);
        assertThat(Faders.of(exempt).movedBy(exempt.vcas().getFirst())).isEmpty();
        assertThat(Faders.of(exempt).movedBy(exempt.vcas().getLast())).containsExactly(ONE);
        Session silent = moved.withVcas(
                List.of(moved.vcas().getFirst(), moved.vcas().getLast().withMuted(true)));
        assertThat(mix(silent, 1, 512)[0][5_000]).isZero();
        assertThatIllegalArgumentException()
                .isThrownBy(() -> moved.withVcas(List.of(
                        new Vca(low, "Low", 0, false, List.of(high), List.of()),
                        new Vca(high, "High", 0, false, List.of(low), List.of()))))
                .withMessageContaining("no VCA above itself");
    }

    @Test
    void the_level_after_an_insert_is_measured_over_the_songs_own_frames() {
        Session louder = with(session, TWO, Limiter.KIND).withStrip(TWO, s -> s.withInserts(
                        List.of(s.inserts().getFirst().withOutputDb(-5)))
                .withFaderDb(-2));
        ChannelLevels two =
                SessionMeasurement.of(louder, folder, Progress.NONE).of(TWO).orElseThrow();
        double before = two.at(Stage.TRIM).averageDbfs();
        assertThat(two.after(SLOT).orElseThrow().averageDbfs()).isCloseTo(before - 5, within(0.01));
        assertThat(two.at(Stage.FADER).averageDbfs()).isCloseTo(before - 7, within(0.01));
        assertThat(two.after(SLOT).orElseThrow().peakAtSeconds())
                .isCloseTo(two.at(Stage.TRIM).peakAtSeconds(), within(1e-9));
        Session bypassed = louder.withStrip(
                TWO, s -> s.withInserts(List.of(s.inserts().getFirst().withBypassed(true))));
        assertThat(SessionMeasurement.of(bypassed, folder, Progress.NONE)
                        .of(TWO)
                        .orElseThrow()
                        .after(SLOT))
                .isEmpty();
    }
}
