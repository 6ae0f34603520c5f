package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FindingsTest {
    @TempDir
    Path folder;

    private List<Finding> of(Session session) {
        return Findings.of(SessionMeasurement.asShown(session, folder, Progress.NONE));
    }

    private Session tone(double dbfs) throws Exception {
        return new Sessions(folder)
                .track("tone", "main", Signals.sine(500, dbfs, 48_000, 1), Signals.sine(700, dbfs, 48_000, 1))
                .build();
    }

    @Test
    void a_session_with_4_dB_of_headroom_and_sound_tracks_has_no_findings() throws Exception {
        assertThat(of(tone(-4))).isEmpty();
    }

    @Test
    void a_mix_over_full_scale_is_a_risk_and_its_remedy_leaves_headroom() throws Exception {
        Session hot = tone(2);
        List<Finding> found = of(hot);
        assertThat(found.getFirst().rule()).isEqualTo(Finding.Rule.MAIN_OVER_FULL_SCALE);
        assertThat(found.getFirst().severity()).isEqualTo(Finding.Severity.RISK);
        assertThat(found.getFirst().sentence()).contains("Main is +2.0 dB over full scale");
        Session mended = found.getFirst().remedy().orElseThrow().apply(hot);
        assertThat(mended.main().strip().trimDb()).isCloseTo(-6.5, within(0.001));
        assertThat(of(mended)).extracting(Finding::rule).containsExactly(Finding.Rule.HARMLESS_OVERS);
    }

    @Test
    void a_mix_with_little_headroom_says_how_much() throws Exception {
        assertThat(of(tone(-1))).singleElement().satisfies(f -> assertThat(f.sentence())
                .contains("Main has 1.0 dB of headroom"));
    }

    @Test
    void flattened_samples_are_loss_with_their_first_place() throws Exception {
        Session session = new Sessions(folder)
                .track(
                        "cut",
                        "main",
                        Track.Kind.SUSTAINED,
                        SampleEncoding.PCM_24,
                        Signals.joined(Signals.silence(48_000, 2), Signals.sine(100, 3, 48_000, 1)))
                .build()
                .withStrip(Sessions.id("cut"), s -> s.withTrimDb(-1.5));
        Finding first = of(session).getFirst();
        assertThat(first.rule()).isEqualTo(Finding.Rule.FLATTENED_SAMPLES);
        assertThat(first.severity()).isEqualTo(Finding.Severity.LOSS);
        assertThat(first.atSeconds().orElseThrow()).isCloseTo(2, within(0.01));
    }

    @Test
    void overs_of_a_float_file_are_called_harmless() throws Exception {
        Session session = tone(5).withStrip(Sessions.id("tone"), s -> s.withTrimDb(-9.5));
        assertThat(of(session)).singleElement().satisfies(f -> {
            assertThat(f.rule()).isEqualTo(Finding.Rule.HARMLESS_OVERS);
            assertThat(f.sentence()).contains("no loss");
        });
    }

    @Test
    void balance_is_a_finding_only_where_the_sides_differ() throws Exception {
        Placement aside = new Placement(0.5, 1, Placement.Mode.BALANCE);
        Session unlike = tone(-4).withStrip(Sessions.id("tone"), s -> s.withPlacement(aside));
        Finding finding = of(unlike).stream()
                .filter(f -> f.rule() == Finding.Rule.BALANCE_LOSES_CONTENT)
                .findFirst()
                .orElseThrow();
        Placement mended = finding.remedy()
                .orElseThrow()
                .apply(unlike)
                .channel(Sessions.id("tone"))
                .strip()
                .placement();
        assertThat(mended.mode()).isEqualTo(Placement.Mode.PLACE);
        float[] side = Signals.sine(500, -4, 48_000, 1);
        Session alike = new Sessions(folder)
                .track("tone", "main", side, side)
                .build()
                .withStrip(Sessions.id("tone"), s -> s.withPlacement(aside));
        assertThat(of(alike))
                .as("nothing is lost where both sides are the same, but one of them is enough")
                .extracting(Finding::rule)
                .containsExactly(Finding.Rule.IDENTICAL_SIDES);
    }

    private Session stereo(float[] left, float[] right) throws Exception {
        return new Sessions(folder).track("pair", "main", left, right).build();
    }

    private static float[] turnedOver(float[] samples) {
        float[] out = new float[samples.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = -samples[i];
        }
        return out;
    }

    @Test
    void two_sides_of_one_signal_are_made_mono_by_the_remedy() throws Exception {
        float[] side = Signals.sine(500, -4, 48_000, 1);
        for (float[] right : new float[][] {side, turnedOver(side), new float[side.length]}) {
            Session session = stereo(side, right);
            Finding finding = of(session).getFirst();
            assertThat(finding.rule())
                    .isIn(Finding.Rule.IDENTICAL_SIDES, Finding.Rule.INVERTED_SIDES, Finding.Rule.SILENT_SIDE);
            Session mended = finding.remedy().orElseThrow().apply(session);
            assertThat(mended.tracks().getFirst().planes()).isEqualTo(1);
            // A mono source in the centre, 3.01 dB down on each side: 7.01 dB of headroom.
            SessionLevels levels = SessionMeasurement.of(mended, folder, Progress.NONE);
            assertThat(levels.main().orElseThrow().headroomDb()).isCloseTo(7.01, within(0.01));
            assertThat(Findings.of(levels)).as("mended").isEmpty();
        }
    }

    @Test
    void a_silent_left_side_is_mended_by_taking_the_right_one() throws Exception {
        float[] side = Signals.sine(500, -4, 48_000, 1);
        Session session = stereo(new float[side.length], side);
        assertThat(of(session)).singleElement().satisfies(f -> {
            assertThat(f.rule()).isEqualTo(Finding.Rule.SILENT_SIDE);
            assertThat(f.sentence()).contains("The left side of pair is silent");
            assertThat(f.remedy()).hasValueSatisfying(edit -> {
                Track mono = edit.apply(session).tracks().getFirst();
                assertThat(mono.planes()).isEqualTo(1);
                assertThat(mono.clips().getFirst().side()).isEqualTo(Clip.Side.RIGHT);
            });
        });
    }

    @Test
    void a_signal_off_the_zero_line_is_a_note() throws Exception {
        float[] left = Signals.sine(500, -10, 48_000, 1);
        float[] right = Signals.sine(700, -4, 48_000, 1);
        for (int i = 0; i < left.length; i++) {
            left[i] += 0.02f;
        }
        assertThat(of(stereo(left, right))).singleElement().satisfies(f -> assertThat(f.sentence())
                .contains("stands 2.0 % of full scale off the zero line"));
    }

    @Test
    void the_same_audio_in_two_tracks_is_a_risk_and_the_remedy_mutes_one() throws Exception {
        float[] side = Signals.sine(500, -16, 48_000, 1);
        Session session = new Sessions(folder)
                .track("one", "main", side)
                .track("other", "main", side)
                .track("loud", "main", Signals.sine(300, -3, 48_000, 1))
                .build();
        Finding finding = of(session).stream()
                .filter(f -> f.rule() == Finding.Rule.SAME_AUDIO_TWICE)
                .findFirst()
                .orElseThrow();
        assertThat(finding.sentence()).contains("other holds the same audio as one");
        assertThat(finding.remedy()
                        .orElseThrow()
                        .apply(session)
                        .channel(Sessions.id("other"))
                        .strip()
                        .muted())
                .isTrue();
    }

    @Test
    void files_of_unlike_lengths_are_a_note_unless_they_are_cues() throws Exception {
        float[] whole = Signals.sine(500, -4, 48_000, 4);
        Session session = new Sessions(folder)
                .track("whole", "main", whole)
                .track("part", "main", Signals.sine(300, -20, 48_000, 1.5))
                .track("click", "main", Track.Kind.CUE, SampleEncoding.PCM_16, Signals.sine(900, -20, 48_000, 0.5))
                .build();
        assertThat(of(session))
                .filteredOn(f -> f.rule() == Finding.Rule.UNLIKE_LENGTHS)
                .singleElement()
                .satisfies(f -> assertThat(f.sentence()).contains("by up to 2.5 s; part is the shortest"));
    }

    @Test
    void a_noise_floor_that_a_trim_brings_up_through_the_threshold_is_a_risk() throws Exception {
        float[] take = Signals.joined(Signals.noise(0.0003, 48_000, 1), Signals.sine(500, -30, 48_000, 1));
        Session session = new Sessions(folder).track("whistle", "main", take).build();
        assertThat(of(session)).extracting(Finding::rule).doesNotContain(Finding.Rule.RAISED_NOISE);
        Session raised = session.withStrip(Sessions.id("whistle"), s -> s.withTrimDb(20));
        assertThat(of(raised)).extracting(Finding::rule).contains(Finding.Rule.RAISED_NOISE);
    }

    @Test
    void a_coarse_fader_hands_its_attenuation_to_the_trim_and_the_level_stays() throws Exception {
        Session low =
                tone(-4).withStrip(Sessions.id("tone"), s -> s.withFaderDb(-40).withTrimDb(-3));
        Finding finding = of(low).stream()
                .filter(f -> f.rule() == Finding.Rule.COARSE_FADER)
                .findFirst()
                .orElseThrow();
        var strip = finding.remedy()
                .orElseThrow()
                .apply(low)
                .channel(Sessions.id("tone"))
                .strip();
        assertThat(strip.trimDb()).isEqualTo(-43);
        assertThat(strip.faderDb()).isZero();
    }

    @Test
    void silent_muted_and_missing_tracks_are_told_apart() throws Exception {
        Session session = new Sessions(folder)
                .track("tone", "main", Signals.sine(500, -1, 48_000, 1))
                .track("empty", "main", new float[48_000])
                .track("muted", "main", Signals.sine(500, -10, 48_000, 1))
                .track("lost", "main", Signals.sine(500, -10, 48_000, 1))
                .build()
                .withStrip(Sessions.id("muted"), s -> s.withMuted(true));
        Files.delete(folder.resolve("lost.wav"));
        assertThat(of(session))
                .extracting(f -> f.channel().value() + " " + f.rule())
                .containsExactly("lost MISSING_FILE", "empty EMPTY_TRACK", "muted MUTED_TRACK");
    }

    @Test
    void nothing_is_said_of_what_is_pending() throws Exception {
        assertThat(Findings.of(SessionLevels.pending(tone(5)))).isEmpty();
    }
}
