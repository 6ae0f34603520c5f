package waterwheel.core.staging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.SourceId;
import waterwheel.core.staging.TrimProposal.Reason;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ClipGainProposalsTest {
    private static final int HALF = 5 * 48_000;

    @TempDir
    Path folder;

    private Session session;

    /** A soft and a loud take in one file, as two clips. */
    @BeforeEach
    void two_takes() throws Exception {
        float[] takes = Signals.joined(Signals.sine(440, -30, 48_000, 5), Signals.sine(440, -14, 48_000, 5));
        Session whole = new Sessions(folder).track("voice", "main", takes).build();
        session = whole.withChannel(
                Sessions.id("voice"), c -> ((Track) c.withStrip(c.strip().withTrimDb(2)))
                        .withClips(List.of(
                                new Clip(new SourceId("voice"), 0, 0, HALF, 0),
                                new Clip(new SourceId("voice"), HALF, HALF, HALF, 0))));
    }

    private TrimProposals propose(boolean together) {
        Aim aim = new Aim(new Aim.ByKind(), together, Aim.Place.CLIPS);
        return SessionMeasurement.of(
                session,
                folder,
                song -> ClipGainProposals.of(song, session, Set.of(Sessions.id("voice")), aim, Progress.NONE));
    }

    @Test
    void each_clip_comes_to_the_target_behind_the_present_trim() {
        TrimProposal one = propose(false).list().getFirst();
        // Target -18 less a trim of 2: -20 before it; from -30 and -14.
        assertThat(one.clipGainsDb()).containsExactly(10.0, -6.0);
        assertThat(one.proposedDb()).isEqualTo(2);
        assertThat(one.averageDbfs()).isCloseTo(-18, within(0.02));
        assertThat(one.reason()).isEqualTo(Reason.AVERAGE);
    }

    @Test
    void what_is_said_to_result_is_what_results() {
        TrimProposals proposals = propose(false);
        Session staged = proposals.edit().apply(session);
        assertThat(((Track) staged.channel(Sessions.id("voice"))).clips())
                .extracting(Clip::gainDb)
                .containsExactly(10.0, -6.0);
        var levels = SessionMeasurement.of(staged, folder, Progress.NONE)
                .of(Sessions.id("voice"))
                .orElseThrow();
        assertThat(levels.at(Stage.TRIM).averageDbfs())
                .isCloseTo(proposals.list().getFirst().averageDbfs(), within(1e-9));
        // The source stays as the files are.
        assertThat(levels.at(Stage.SOURCE).samplePeakDbfs()).isCloseTo(-14, within(0.01));
        assertThat(levels.at(Stage.CLIPS).samplePeakDbfs()).isCloseTo(-20, within(0.01));
    }

    @Test
    void together_they_keep_their_balance() {
        assertThat(propose(true).list().getFirst().clipGainsDb()).containsExactly(-6.0, -6.0);
    }
}
