package waterwheel.core.staging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.metering.MiddleBand;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.Curve;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class MakeRoomTest {
    private static final int RATE = 48_000;
    private static final ChannelId VOICE = Sessions.id("voice");
    private static final ChannelId BAND = Sessions.id("band");

    @TempDir
    Path folder;

    /** A voice from 2 to 4 s, again from 4.3 s (a short breath) to 5 s, and from 8 to 9 s, over quiet noise. */
    private Session session(double noise) throws Exception {
        float[] voice = Signals.noise(noise, 12 * RATE, 1);
        float[] tone = Signals.sine(300, -18, RATE, 12);
        for (int i = 0; i < voice.length; i++) {
            double at = (double) i / RATE;
            voice[i] += (at >= 2 && at < 4) || (at >= 4.3 && at < 5) || (at >= 8 && at < 9) ? tone[i] : 0;
        }
        return new Sessions(folder)
                .track("voice", "main", voice)
                .track("band", "main", Signals.noise(0.2, 12 * RATE, 2))
                .build();
    }

    private LevelSeries voice(Session session) {
        return SessionMeasurement.of(session, folder, song -> song.at(session, VOICE, Stage.FADER, Progress.NONE));
    }

    @Test
    void the_others_are_back_while_the_voice_is_there_and_forward_again_behind_it() throws Exception {
        Session session = session(0.001);
        LevelSeries key = voice(session);
        assertThat(MakeRoom.USUAL.activity(key))
                .containsExactly(new Activity(2 * RATE, 5 * RATE), new Activity(8 * RATE, 9 * RATE));
        Session made = proposed(session, MakeRoom.USUAL).after();
        ControlId fader = ControlId.ofStrip(BAND, "faderDb");
        // Before the fall; as it begins; halfway down; as the lead begins; behind the breath; halfway up; forward
        // again.
        double[][] wanted = {
            {1.6, 0}, {1.7, 0}, {1.8, -2}, {1.9, -4}, {4.15, -4}, {5, -4}, {5.25, -2}, {5.5, 0}, {8.5, -4}, {11, 0}
        };
        for (double[] one : wanted) {
            double reading = Controls.reading(made, fader, Math.round(one[0] * RATE));
            assertThat(reading).as("at %s s", one[0]).isCloseTo(one[1], within(1e-6));
        }
    }

    @Test
    void a_part_that_was_edited_down_to_silence_and_a_noisy_one_work_too() throws Exception {
        // With digital silence the floor is the tone's own level: the average less 20 dB counts.
        assertThat(MakeRoom.USUAL.activity(voice(session(0)))).hasSize(2);
        // Noise 30 dB below the tone.
        assertThat(MakeRoom.USUAL.activity(voice(session(0.007)))).hasSize(2);
    }

    @Test
    void what_comes_again_at_once_stays_back() throws Exception {
        Curve curve = new MakeRoom(6, 0.2, 2, 2, 0.1, 12, MakeRoom.By.FADER).curve(voice(session(0.001)));
        assertThat(curve.at(Math.round(4.15 * RATE))).isEqualTo(-6);
        assertThat(curve.at(Math.round(6.5 * RATE))).isEqualTo(-6);
        assertThat(curve.at(Math.round(11.5 * RATE))).isEqualTo(0);
    }

    private RideProposal proposed(Session session, MakeRoom room) {
        return SessionMeasurement.of(
                        session,
                        folder,
                        song -> RoomProposals.of(song, session, VOICE, List.of(BAND), room, Progress.NONE))
                .orElseThrow();
    }

    @Test
    void what_the_voice_gains_over_the_rest_is_told_by_section() throws Exception {
        Session session = session(0.001)
                .withSections(List.of(
                        new Section("Sung", 2 * RATE, 4 * RATE),
                        new Section("Played", 6 * RATE, 7 * RATE),
                        new Section("Silent", 40 * RATE, 41 * RATE)));
        RideProposal proposal = proposed(session, MakeRoom.USUAL.withDepthDb(5));
        assertThat(proposal.changes()).extracting(RideProposal.Change::section).containsExactly("Sung", "Played");
        RideProposal.Change sung = proposal.changes().getFirst();
        assertThat(sung.after() - sung.before()).isCloseTo(5, within(0.01));
        RideProposal.Change played = proposal.changes().getLast();
        assertThat(played.after()).isCloseTo(played.before(), within(1e-9));
        assertThat(proposal.edit().apply(session)).isEqualTo(proposal.after());
    }

    @Test
    void a_bell_dips_the_voices_own_band_and_leaves_the_rest() throws Exception {
        Session session = session(0.0001);
        Session made =
                proposed(session, MakeRoom.USUAL.withBy(MakeRoom.By.BELL)).after();
        Insert equaliser = made.channel(BAND).strip().inserts().getFirst();
        ControlId gain = ControlId.ofInsert(BAND, equaliser.id(), "bell2Db");
        assertThat(Controls.reading(made, gain, 3 * RATE)).isEqualTo(-4);
        assertThat(Controls.reading(made, gain, 7 * RATE)).isEqualTo(0);
        assertThat(made.channel(BAND).strip().rides().isNone()).isTrue();
        // Proposed once more, it is the same bell.
        Session again = SessionMeasurement.of(
                        made,
                        folder,
                        song -> RoomProposals.of(
                                song,
                                made,
                                VOICE,
                                List.of(BAND),
                                MakeRoom.USUAL.withBy(MakeRoom.By.BELL).withDepthDb(6),
                                Progress.NONE))
                .orElseThrow()
                .after();
        assertThat(again.channel(BAND).strip().inserts()).hasSize(1);
        assertThat(Controls.reading(again, gain, 3 * RATE)).isEqualTo(-6);
    }

    @Test
    void the_middle_of_a_signals_power_is_found_to_a_third_octave() {
        for (double hertz : new double[] {630, 1_000, 1_600, 2_500, 4_000}) {
            MiddleBand band = new MiddleBand(RATE, 2);
            float[] tone = Signals.sine(hertz, -20, RATE, 1);
            band.accept(new float[][] {tone, tone}, tone.length);
            assertThat(band.hertz() / hertz).as("%s Hz", hertz).isBetween(0.97, 1.03);
        }
        assertThat(new MiddleBand(RATE, 1).hertz()).isEqualTo(2_000);
    }
}
