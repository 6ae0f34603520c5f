package waterwheel.core.playback;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Signal;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Region;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;

/** An instrument played by hand is heard through its channel, while the song stands and while it runs. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Timeout(60)
class PlayedByHandTest {
    private static final float LEVEL = 0.25f;

    @TempDir
    Path folder;

    @SuppressWarnings("NullAway.Init")
    private Session session;

    /** A sampler whose sample is a constant, at its first output and, half as loud, at its second; it plays one late note. */
    @BeforeEach
    void a_constant_as_an_instrument() throws Exception {
        float[] constant = new float[1_000];
        Arrays.fill(constant, LEVEL);
        Session files = new Sessions(folder).track("constant", "main", constant).build();
        SourceId source = new SourceId("constant");
        Session plain = files.withChannels(List.of(files.main()));
        Region one = new Region(source, 0, 59, 1, 127, 60, 0, Region.Loop.CONTINUOUS, 0, 0, 0.01, 0, 0, 1, 1, 1);
        Region two =
                new Region(source, 60, 127, 1, 127, 60, 0, Region.Loop.CONTINUOUS, 0, 0, 0.01, -6.0206, 0, 1, 1, 2);
        Notes notes = Notes.none(Sessions.RATE).withNotes(List.of(new Note(20L * Sessions.RATE, 100, 30, 127)));
        session = NoteEdits.addInstrument("Constant", new Instrument.Sampler("C", List.of(one, two)), notes, List.of())
                .apply(plain);
    }

    private static void hears(HeardPort port, double level) {
        port.hears(level, 1e-4);
    }

    @Test
    void keys_are_heard_standing_and_running_and_let_go() throws Exception {
        ChannelId player = session.tracks().getFirst().id();
        HeardPort port = new HeardPort();
        try (Media media = Media.open(session, folder);
                Player playing = new Player(session, media, port)) {
            assertThat(playing.keys()).isEmpty();
            playing.playByHand(player);
            HeardPort.until("ready", () -> playing.keys().isPresent());
            playing.keys().orElseThrow().press(40, 127);
            hears(port, LEVEL);
            // Another output goes its own way, to a track of its own.
            playing.keys().orElseThrow().press(70, 127);
            hears(port, 1.5 * LEVEL);
            playing.start();
            hears(port, 1.5 * LEVEL);
            playing.keys().orElseThrow().letGo(40);
            hears(port, 0.5 * LEVEL);
            // A change of values while a key is held.
            playing.use(session.withStrip(session.mainId(), s -> s.withFaderDb(-6.0206)), media);
            hears(port, 0.25 * LEVEL);
            // The pedal holds what is let go.
            playing.keys().orElseThrow().pedal(true);
            playing.keys().orElseThrow().letGo(70);
            hears(port, 0.25 * LEVEL);
            playing.keys().orElseThrow().pedal(false);
            hears(port, 0);
            long before = playing.heardFrame();
            HeardPort.until("goes on", () -> playing.heardFrame() > before + 1_000);
            playing.stop();
            playing.keys().orElseThrow().press(40, 127);
            hears(port, 0.5 * LEVEL);
            playing.playByHand(null);
            HeardPort.until("ended", () -> playing.keys().isEmpty());
        }
    }

    /** Its sounds may take long to make, and a song that was begun meanwhile begins with them. */
    @Test
    void a_song_begins_when_its_instruments_are_ready_and_with_them_from_its_first_frame_on() throws Exception {
        Session early = session.withChannels(session.channels().stream()
                .map(channel -> channel instanceof Track track && track.feed() instanceof Feed.Played played
                        ? track.withFeed(played.withNotes(
                                played.notes().withNotes(List.of(new Note(0, 10L * Sessions.RATE, 30, 127)))))
                        : channel)
                .toList());
        List<Float> begun = Collections.synchronizedList(new ArrayList<>());
        HeardPort port = new HeardPort() {
            @Override
            public void write(float[][] out, int frames) {
                super.write(out, frames);
                for (int i = 0; i < frames; i++) {
                    begun.add(out[0][i]);
                }
            }
        };
        int fade = (int) Math.ceil(0.005 * Sessions.RATE);
        try (Media media = Media.open(early, folder);
                Player playing = new Player(early, media, port)) {
            playing.start();
            HeardPort.until("runs", () -> begun.size() > Sessions.RATE / 10);
        }
        assertThat(begun.subList(fade, Sessions.RATE / 10))
                .allSatisfy(sample -> assertThat(sample).isCloseTo(LEVEL, within(1e-4f)));
    }

    /** A start has other things to do first. */
    @Test
    void sounds_of_instruments_are_made_when_they_are_wanted_and_not_before() throws Exception {
        try (Media media = Media.open(session, folder);
                Player playing = new Player(session, media, new HeardPort())) {
            Thread.sleep(300);
            assertThat(playing.plan().signals()).noneMatch(Signal.Played.class::isInstance);
            playing.prepare();
            HeardPort.until("made", () -> playing.plan().signals().stream().anyMatch(Signal.Played.class::isInstance));
            assertThat(playing.playing()).isFalse();
        }
    }

    /** A disk that fails must not keep the rest of the song from being heard. */
    @Test
    void where_an_instrument_cannot_be_made_ready_the_rest_of_the_song_plays() throws Exception {
        float[] half = new float[Sessions.RATE * 20];
        Arrays.fill(half, 0.5f);
        Session beside = new Sessions(folder).track("half", "main", half, half).build();
        Session both = session.withMoreSources(beside.sources())
                .withChannels(Stream.concat(session.channels().stream(), beside.tracks().stream())
                        .toList());
        HeardPort port = new HeardPort();
        try (Media media = Media.open(both, folder)) {
            // Open and mapped, and gone before it is read.
            AudioSource sampled = both.sources().getFirst();
            try (FileChannel file = FileChannel.open(folder.resolve(sampled.path()), StandardOpenOption.WRITE)) {
                file.truncate(0);
            }
            try (Player playing = new Player(both, media, port)) {
                playing.start();
                hears(port, 0.5);
            }
        }
    }

    /** What a port still holds is not heard yet: whoever plays along is so much behind what is computed. */
    @Test
    void what_is_heard_lies_behind_what_is_computed_by_what_the_port_holds() throws Exception {
        int held = Sessions.RATE / 10;
        HeardPort port = new HeardPort() {
            @Override
            public int heardLaterFrames() {
                return held;
            }
        };
        try (Media media = Media.open(session, folder);
                Player playing = new Player(session, media, port)) {
            playing.start();
            HeardPort.until("runs", () -> playing.position() > 3L * held);
            for (int i = 0; i < 200; i++) {
                long from = playing.position();
                long heard = playing.heardFrame();
                long to = playing.position();
                assertThat(heard)
                        .isBetween(from - held, to - held + session.rack().blockFrames());
            }
            playing.stop();
            HeardPort.until("stands", () -> playing.heardFrame() == playing.position());
        }
    }
}
