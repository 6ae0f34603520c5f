package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.RenderException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Delay;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Saturator;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemRenderTest {
    private static final int FRAMES = 48_000 * 2;

    @TempDir
    Path folder;

    private Session session;
    private Path out;

    @BeforeEach
    void a_small_band() throws Exception {
        out = folder.resolve("stems");
        session = new Sessions(folder)
                .track("drum", "rhythm", Signals.noise(0.3, FRAMES, 1))
                .track("piano", "main", Signals.noise(0.2, FRAMES, 2), Signals.noise(0.2, FRAMES, 3))
                .track("rest", "main", new float[FRAMES])
                .track("click", "main", Track.Kind.CUE, SampleEncoding.PCM_16, Signals.noise(0.1, FRAMES, 4))
                .bus("rhythm", "main")
                .build()
                .withStrip(Sessions.id("drum"), s -> s.withPlacement(Placement.CENTRE.withPosition(-0.3)))
                .withStrip(Sessions.id("piano"), s -> s.withPlacement(new Placement(0.2, 0.7, Placement.Mode.PLACE)))
                .withStrip(Sessions.id("rhythm"), s -> s.withFaderDb(-2.5))
                .withStrip(Sessions.MAIN, s -> s.withTrimDb(-3));
    }

    private StemResult render(RenderFormat format, LevelPolicy policy) throws Exception {
        return StemRender.render(session, folder, new StemRequest(out, format, policy, true), Progress.NONE);
    }

    @ParameterizedTest
    @EnumSource(RenderFormat.class)
    void stems_add_up_to_the_mix_within_the_formats_resolution(RenderFormat format) throws Exception {
        StemProof proof = render(format, new LevelPolicy.AsMixed()).proof();
        assertThat(proof.holds()).as(proof.inWords()).isTrue();
        // Two stems and the mix, each rounded by half a step and dithered by one.
        double fixed =
                format.encoding().fixedPoint() ? 3 * 1.5 / format.encoding().fullScaleSteps() : 0;
        assertThat(Math.pow(10, proof.residualPeakDbfs() / 20)).isLessThanOrEqualTo(fixed + 3e-6);
    }

    @Test
    void a_bus_that_treats_several_stems_as_one_is_the_reason_for_a_difference() throws Exception {
        session = session.withStrip(
                Sessions.MAIN, s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Saturator.KIND))));
        StemProof proof =
                render(RenderFormat.WAV_32F, new LevelPolicy.AsMixed()).proof();
        assertThat(proof.nulls()).isFalse();
        assertThat(proof.holds()).isTrue();
        assertThat(proof.inWords()).contains("because Main treats several of them as one");
        session = session.withStrip(
                Sessions.MAIN, s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Equaliser.KIND))));
        assertThat(render(RenderFormat.WAV_32F, new LevelPolicy.AsMixed())
                        .proof()
                        .nulls())
                .isTrue();
    }

    @Test
    void silent_tracks_are_left_out_and_cues_kept_apart() throws Exception {
        StemResult result = render(RenderFormat.WAV_24, new LevelPolicy.AsMixed());
        assertThat(result.files().stream().map(StemResult.Written::path))
                .containsExactly("Mix.wav", "01 drum.wav", "02 piano.wav", "cues/04 click.wav");
        assertThat(out.resolve("cues/04 click.wav")).exists();
        assertThat(Files.readString(out.resolve(StemRender.MANIFEST))).contains("\"name\" : \"rest\"");
        assertThat(Files.readString(out.resolve(StemRender.REPORT)))
                .contains("Proof holds")
                .contains("02 piano.wav");
    }

    @Test
    void what_was_foretold_is_what_the_files_measure() throws Exception {
        StemResult result = render(RenderFormat.WAV_32F, new LevelPolicy.MixHeadroom(6));
        for (StemForecast.Stem stem : result.forecast().written()) {
            String path = (stem.inMix() ? "" : "cues/") + stem.fileName() + ".wav";
            Figures read = Objects.requireNonNull(result.proof().files().get(path));
            assertThat(read.samplePeakDbfs()).as(path).isCloseTo(stem.figures().samplePeakDbfs(), within(1e-4));
            assertThat(read.integratedLufs()).as(path).isCloseTo(stem.figures().integratedLufs(), within(1e-4));
        }
    }

    @Test
    void common_gain_gives_the_mix_its_headroom_or_loudness_and_keeps_the_balance() throws Exception {
        StemResult plain = render(RenderFormat.WAV_32F, new LevelPolicy.AsMixed());
        StemResult headroom = render(RenderFormat.WAV_32F, new LevelPolicy.MixHeadroom(4.5));
        StemResult loudness = render(RenderFormat.WAV_32F, new LevelPolicy.MixLoudness(-23));
        StemResult peak = render(RenderFormat.WAV_32F, new LevelPolicy.LoudestStemPeak(-6));
        assertThat(figures(headroom, "Mix.wav").headroomDb()).isCloseTo(4.5, within(1e-4));
        assertThat(figures(loudness, "Mix.wav").integratedLufs()).isCloseTo(-23, within(1e-4));
        assertThat(Math.max(
                        figures(peak, "01 drum.wav").samplePeakDbfs(),
                        figures(peak, "02 piano.wav").samplePeakDbfs()))
                .isCloseTo(-6, within(1e-4));
        for (String file : new String[] {"01 drum.wav", "02 piano.wav", "Mix.wav", "cues/04 click.wav"}) {
            assertThat(figures(headroom, file).samplePeakDbfs()
                            - figures(plain, file).samplePeakDbfs())
                    .as(file)
                    .isCloseTo(headroom.forecast().gainDb(), within(1e-4));
        }
    }

    @ParameterizedTest
    @EnumSource(RenderFormat.class)
    void each_to_target_every_stem_gets_there_and_the_proof_takes_its_gain_back(RenderFormat format) throws Exception {
        StemResult loud = render(format, new LevelPolicy.EachLoudness(-23));
        StemResult peak = render(format, new LevelPolicy.EachPeak(-3));
        for (String stem : List.of("01 drum", "02 piano")) {
            assertThat(figures(loud, stem + format.ending()).integratedLufs()).isCloseTo(-23, within(0.01));
            assertThat(figures(peak, stem + format.ending()).samplePeakDbfs()).isCloseTo(-3, within(0.01));
        }
        StemResult plain = render(format, new LevelPolicy.AsMixed());
        for (String other : List.of("Mix", "cues/04 click")) {
            assertThat(figures(loud, other + format.ending()).samplePeakDbfs())
                    .isEqualTo(figures(plain, other + format.ending()).samplePeakDbfs());
        }
        assertThat(loud.proof().nulls()).as(loud.proof().inWords()).isTrue();
        assertThat(peak.proof().nulls()).as(peak.proof().inWords()).isTrue();
        assertThat(loud.files().get(1).gainDb())
                .isNotEqualTo(loud.files().get(2).gainDb());
    }

    private static Figures figures(StemResult result, String path) {
        return Objects.requireNonNull(result.proof().files().get(path));
    }

    @Test
    void a_mix_over_full_scale_fails_the_proof_in_fixed_point_and_not_in_float() throws Exception {
        session = session.withStrip(Sessions.MAIN, s -> s.withTrimDb(12));
        StemProof fixed = render(RenderFormat.WAV_24, new LevelPolicy.AsMixed()).proof();
        assertThat(fixed.holds()).isFalse();
        assertThat(fixed.samplesAtLimit()).isPositive();
        assertThat(fixed.inWords()).contains("too hot");
        assertThat(render(RenderFormat.WAV_32F, new LevelPolicy.AsMixed())
                        .proof()
                        .holds())
                .isTrue();
    }

    private StemResult render(StemDivision division, double tailSeconds) throws Exception {
        StemRequest request = new StemRequest(out, RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), false)
                .with(StemSettings.USUAL.withDivision(division).withTailSeconds(tailSeconds));
        return StemRender.render(session, folder, request, Progress.NONE);
    }

    @Test
    void stems_by_bus_hold_all_that_comes_together_there_even_through_its_compressor() throws Exception {
        Bus band = new Bus(new ChannelId("band"), "band", Strip.unity(Output.to(Sessions.MAIN)));
        List<Channel> channels = new ArrayList<>(session.channels());
        channels.add(band);
        Insert compressor = Insert.of(new SlotId("1"), Compressor.KIND);
        session = session.withChannels(channels).withStrip(band.id(), s -> s.withInserts(List.of(compressor)));
        for (String id : List.of("drum", "piano")) {
            session = session.withStrip(Sessions.id(id), s -> s.withOutput(Output.to(band.id())));
        }
        StemResult byBus = render(StemDivision.BUSES, 0);
        assertThat(byBus.files().stream().map(StemResult.Written::name)).containsExactly("Mix", "band");
        assertThat(byBus.proof().nulls()).isTrue();
        assertThat(byBus.proof().processedTogether()).isEmpty();
        StemResult byTrack = render(StemDivision.TRACKS, 0);
        assertThat(byTrack.proof().nulls()).isTrue();
        assertThat(byTrack.proof().processedTogether()).isEmpty();
    }

    @Test
    void more_stems_than_one_run_takes_add_up_all_the_same() throws Exception {
        Sessions made = new Sessions(folder).bus("glue", "main");
        for (int i = 0; i < 70; i++) {
            made.track("t" + i, "glue", Signals.noise(0.01, 2_400, i));
        }
        session = made.build()
                .withStrip(
                        Sessions.id("glue"),
                        s -> s.withInserts(List.of(
                                Insert.of(new SlotId("1"), Compressor.KIND).with("thresholdDb", -40))));
        StemResult result = render(StemDivision.TRACKS, 0);
        assertThat(result.files()).hasSize(71);
        assertThat(result.proof().nulls()).as(result.proof().inWords()).isTrue();
        assertThat(render(StemDivision.TRACKS, 0).upToDate()).isEqualTo(71);
    }

    @Test
    void a_tail_lets_the_echo_after_the_end_be_heard() throws Exception {
        // An echo 100 ms after the song: only a tail has it.
        Insert echo = Insert.of(new SlotId("1"), Delay.KIND);
        echo = echo.withProcessor(echo.processor().with("timeMs", 100).with("feedbackPercent", 0));
        Insert only = echo;
        session = session.withStrip(Sessions.MAIN, s -> s.withInserts(List.of(only)));
        StemResult without = render(StemDivision.TRACKS, 0);
        StemResult with = render(StemDivision.TRACKS, 0.5);
        assertThat(with.frames()).isEqualTo(without.frames() + Sessions.RATE / 2);
        assertThat(with.proof().nulls()).isTrue();
        try (AudioFile mix = AudioFiles.open(out.resolve("Mix.wav"))) {
            assertThat(mix.format().frames()).isEqualTo(with.frames());
            float[][] tail = new float[2][Sessions.RATE / 2];
            mix.reader(tail[0].length).read(without.frames(), tail, 0, tail[0].length);
            int last = tail[0].length - 1;
            while (last >= 0 && tail[0][last] == 0) {
                last--;
            }
            assertThat(last).as("the echo of the song's last frames").isBetween(4_700, 4_799);
        }
    }

    @Test
    void a_stopped_render_leaves_nothing_behind() {
        Progress stopsHalfway = new StopsAt(0.5);
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(() -> StemRender.render(
                        session,
                        folder,
                        new StemRequest(out, RenderFormat.WAV_24, new LevelPolicy.AsMixed(), true),
                        stopsHalfway));
        assertThat(out).isEmptyDirectory();
    }

    @Test
    void a_missing_source_is_refused_by_name_before_anything_is_written() throws Exception {
        Files.delete(folder.resolve("drum.wav"));
        assertThatExceptionOfType(AudioFileException.class)
                .isThrownBy(() -> render(RenderFormat.WAV_24, new LevelPolicy.AsMixed()))
                .withMessageContaining("drum.wav");
        assertThat(out).doesNotExist();
    }

    @Test
    void a_session_in_which_nothing_sounds_is_refused() {
        session = session.withStrip(Sessions.MAIN, s -> s.withMuted(true));
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> render(RenderFormat.WAV_24, new LevelPolicy.AsMixed()))
                .withMessageContaining("nothing to render");
    }

    @Test
    void the_same_session_renders_to_the_same_bytes() throws Exception {
        render(RenderFormat.WAV_24, new LevelPolicy.AsMixed());
        byte[] first = Files.readAllBytes(out.resolve("Mix.wav"));
        render(RenderFormat.WAV_24, new LevelPolicy.AsMixed());
        assertThat(Files.readAllBytes(out.resolve("Mix.wav"))).isEqualTo(first);
    }
}
