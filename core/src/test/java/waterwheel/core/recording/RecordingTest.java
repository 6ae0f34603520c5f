package waterwheel.core.recording;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Stream;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.playback.Player;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Rack;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

/** What comes in is recorded in its place, and stays whatever happens. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(120)
class RecordingTest {
    private static final int FRAMES = 96_000;

    @TempDir
    Path folder;

    /** A song that leaves by outputs 5 and 6, and a track that input 5 feeds through a cable from there. */
    private Session session() throws Exception {
        Session session = new Sessions(folder)
                .track("one", "main", Signals.noise(0.2, FRAMES, 1))
                .build()
                .withRack(new Rack(
                        Driver.SIMULATED, 1, List.of(), List.of(), List.of(new Cable(Optional.empty(), 5, 5))));
        Session apart = session.withStrip(Sessions.id("one"), s -> s.withOutput(new Output.ToInterface(3)));
        return InputEdits.newTrack(5, 1).apply(apart);
    }

    private static Track fed(Session session) {
        return session.tracks().getLast();
    }

    /** Records from a place of the song on, for some frames at least. */
    private Session recorded(Session session, long from, long frames) throws Exception {
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, new SimulatedInterface(session.rack(), false));
                Recorder recorder = new Recorder(folder, session, List.of(fed(session)))) {
            player.seek(from);
            player.record(recorder, recorder.tracks());
            player.start();
            while (player.position() < from + frames) {
                LockSupport.parkNanos(200_000);
            }
            player.recordNothing();
            player.stop();
            List<Recorded> all = recorder.finish(player.roundTripFrames());
            assertThat(all).hasSize(1);
            return Recorded.into(session, all);
        }
    }

    private double differenceDb(Session recorded, long from, long to) {
        // Both tracks by themselves, in the centre: the same signal in the same place.
        Session onMain = recorded.withStrip(Sessions.id("one"), s -> s.withOutput(Output.to(Sessions.MAIN)));
        float[][] mix =
                new Renders(folder).mix(onMain.withStrip(fed(recorded).id(), s -> s.withPolarityInverted(true)));
        double most = 0;
        for (int i = (int) from; i < to; i++) {
            most = Math.max(most, Math.abs(mix[0][i]));
        }
        return 20 * Math.log10(most);
    }

    @Test
    void what_comes_in_lies_where_it_belongs_to_the_sample() throws Exception {
        Session recorded = recorded(session(), 0, 60_000);
        Clip clip = fed(recorded).clips().getFirst();
        assertThat(clip.startFrames()).isZero();
        // A centred track reaches the pair 3 dB lower by the pan law; the fade of the start is over after 5 ms.
        Session level = recorded.withStrip(fed(recorded).id(), s -> s.withTrimDb(20 * Math.log10(Math.sqrt(2))));
        assertThat(differenceDb(level, 300, 59_000)).isLessThan(-120);
        Session later = recorded(session(), 30_000, 40_000);
        Session laterLevel = later.withStrip(fed(later).id(), s -> s.withTrimDb(20 * Math.log10(Math.sqrt(2))));
        assertThat(differenceDb(laterLevel, 30_300, 69_000)).isLessThan(-120);
    }

    @Test
    void a_recording_goes_on_behind_the_end_of_the_song_and_a_second_one_has_a_file_of_its_own() throws Exception {
        // Long enough to reach beyond the second one, which a busy machine ends late.
        Session first = recorded(session(), FRAMES - 10_000, 300_000);
        assertThat(first.lengthFrames()).isGreaterThan(FRAMES + 15_000);
        Session second = recorded(first, FRAMES - 5_000, 10_000);
        try (Stream<Path> files = Files.list(folder.resolve(Recorder.FOLDER))) {
            assertThat(files).hasSize(2);
        }
        // The earlier one gives way where the later one is, and is as it was beside it.
        List<Clip> clips = new ArrayList<>(fed(second).clips());
        clips.sort((a, b) -> Long.compare(a.startFrames(), b.startFrames()));
        assertThat(clips).hasSize(3);
        for (int i = 1; i < 3; i++) {
            assertThat(clips.get(i).startFrames()).isEqualTo(clips.get(i - 1).endFrames());
        }
        assertThat(clips.get(2).source()).isEqualTo(clips.get(0).source());
    }

    @Test
    void a_track_is_silent_under_its_own_recording_and_plays_again_afterwards() throws Exception {
        // What comes back is what goes out: if the earlier recording sounded too, the second would hold both.
        Session first = recorded(session(), 0, 40_000);
        Session again = first.withStrip(fed(first).id(), s -> s.withOutput(new Output.ToInterface(3)));
        Session second = recorded(again, 0, 40_000);
        Session level = second.withStrip(fed(second).id(), s -> s.withTrimDb(20 * Math.log10(Math.sqrt(2)))
                .withOutput(Output.to(Sessions.MAIN)));
        assertThat(differenceDb(level, 300, 39_000)).isLessThan(-120);
    }

    @Test
    void a_file_that_nobody_finished_plays_up_to_the_last_second() throws Exception {
        Session session = session();
        float[] heard = Signals.noise(0.5, 5 * Sessions.RATE, 3);
        Path copy = folder.resolve("as-after-a-crash.wav");
        try (Recorder recorder = new Recorder(folder, session, List.of(fed(session)))) {
            float[][] in = new float[8][256];
            int at = 0;
            for (; at + 256 <= heard.length; at += 256) {
                System.arraycopy(heard, at, in[4], 0, 256);
                recorder.hear(in, 256, at);
            }
            Path growing =
                    folder.resolve(Recorder.FOLDER).resolve(fed(session).id().value() + "-1.wav");
            // As much as a crash would leave: nothing is told to the recorder.
            int least = at - Sessions.RATE;
            for (int tries = 0; ; tries++) {
                Files.deleteIfExists(copy);
                Files.copy(growing, copy);
                try (AudioFile file = AudioFiles.open(copy)) {
                    if (file.format().frames() >= least || tries == 200) {
                        assertThat(file.format().frames()).isGreaterThanOrEqualTo(least);
                        break;
                    }
                }
                LockSupport.parkNanos(10_000_000);
            }
        }
        try (AudioFile file = AudioFiles.open(copy)) {
            int frames = (int) file.format().frames();
            float[][] back = new float[1][frames];
            file.reader(frames).read(0, back, 0, frames);
            for (int i = 0; i < frames; i++) {
                assertThat(back[0][i]).isEqualTo(heard[i]);
            }
        }
    }

    @Test
    void nothing_recorded_leaves_no_file_and_a_jump_ends_what_is_taken() throws Exception {
        Session session = session();
        try (Recorder recorder = new Recorder(folder, session, List.of(fed(session)))) {
            assertThat(recorder.finish(0)).isEmpty();
        }
        assertThat(folder.resolve(Recorder.FOLDER)).isEmptyDirectory();
        try (Recorder recorder = new Recorder(folder, session, List.of(fed(session)))) {
            recorder.hear(new float[8][256], 256, 1_000);
            recorder.hear(new float[8][256], 256, 5_000);
            Recorded one = recorder.finish(320).getFirst();
            assertThat(one.source().frames()).isEqualTo(256);
            assertThat(one.songFrame()).isEqualTo(680);
        }
        // Earlier than the song's beginning: that part is not heard, and stays in the file.
        Session before = Recorded.into(
                session,
                List.of(new Recorded(
                        fed(session).id(),
                        new AudioSource(new SourceId("r"), "recordings/r.wav", 1_000, 1, Sessions.RATE, "32-bit float"),
                        -320,
                        0,
                        0)));
        assertThat(fed(before).clips().getFirst()).isEqualTo(new Clip(new SourceId("r"), 0, 320, 680, 0));
    }

    @Test
    void a_track_without_an_input_cannot_be_recorded() throws Exception {
        Session session = session();
        assertThatExceptionOfType(IllegalArgumentException.class)
                .isThrownBy(() ->
                        new Recorder(folder, session, List.of(session.tracks().getFirst())))
                .withMessageContaining("one that an input feeds");
    }

    @Test
    void whatever_clips_lie_there_what_is_beside_the_recording_sounds_as_before_and_under_it_nothing_does()
            throws Exception {
        Random random = new Random(4);
        Signals.wav(folder.resolve("silence.wav"), Sessions.RATE, SampleEncoding.FLOAT_32, new float[20_000]);
        for (int round = 0; round < 40; round++) {
            Session base = session();
            Track track = fed(base);
            List<Clip> clips = new ArrayList<>();
            for (int c = 0; c < 1 + random.nextInt(4); c++) {
                int length = 2_000 + random.nextInt(30_000);
                int at = random.nextInt(length);
                Curve curve = random.nextBoolean()
                        ? Curve.NONE
                        : new Curve(List.of(
                                new CurvePoint(at / 2, -6, CurvePoint.Shape.LINE),
                                new CurvePoint(at / 2 + 1 + random.nextInt(5_000), 3, CurvePoint.Shape.HOLD)));
                clips.add(new Clip(
                        new SourceId("one"),
                        random.nextInt(40_000),
                        random.nextInt(30_000),
                        length,
                        -random.nextInt(6),
                        random.nextInt(500),
                        random.nextInt(500),
                        curve));
            }
            Session before = base.withStrip(Sessions.id("one"), s -> s.withMuted(true))
                    .withChannels(base.channels().stream()
                            .map(c -> c.id().equals(track.id()) ? track.withClips(clips) : c)
                            .toList());
            before = before.withStrip(Sessions.id("one"), s -> s.withMuted(true));
            int from = random.nextInt(40_000);
            AudioSource silence =
                    new AudioSource(new SourceId("s"), "silence.wav", 20_000, 1, Sessions.RATE, "32-bit float");
            Session after = Recorded.into(before, List.of(new Recorded(track.id(), silence, from, 0, 0)));
            // A curve that begins elsewhere has other control points: within 0.01 dB of up to four clips.
            boolean curved = clips.stream().anyMatch(clip -> !clip.gainCurve().isNone());
            Offset<Float> close = Offset.offset(curved ? 1e-3f : 2e-6f);
            float[][] x = new Renders(folder).mix(before);
            float[][] y = new Renders(folder).mix(after);
            for (int i = 0; i < y[0].length; i++) {
                boolean under = i >= from && i < from + 20_000L;
                boolean fading = fading(clips, i, from, from + 20_000L);
                if (!fading) {
                    float wanted = under || i >= x[0].length ? 0 : x[0][i];
                    assertThat(y[0][i]).as("round %s frame %s", round, i).isCloseTo(wanted, close);
                }
            }
        }
    }

    /** Whether a clip fades there, whose fade the cut may have taken. */
    private static boolean fading(List<Clip> clips, long frame, long from, long to) {
        return clips.stream()
                .anyMatch(clip -> clip.startFrames() < to
                        && clip.endFrames() > from
                        && ((frame >= clip.startFrames() && frame < clip.startFrames() + clip.fadeInFrames())
                                || (frame < clip.endFrames() && frame >= clip.endFrames() - clip.fadeOutFrames())));
    }
}
