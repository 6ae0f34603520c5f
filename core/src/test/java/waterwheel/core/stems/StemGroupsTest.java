package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Reverb;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** What stems are made of: tracks, buses, returns, and what was put together by hand. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemGroupsTest {
    private static final int FRAMES = 9_600;

    @TempDir
    Path folder;

    private Session session;

    /** Two drums in a bus, a voice, a click; a hall that the voice and the snare are sent to, and an echo into the hall. */
    @BeforeEach
    void a_small_band() throws Exception {
        session = new Sessions(folder)
                .bus("hall", "main")
                .bus("echo", "hall")
                .bus("drums", "main")
                .track("kick", "drums", Signals.noise(0.3, FRAMES, 1))
                .track("snare", "drums", Signals.noise(0.2, FRAMES, 2))
                .track("voice", "main", Signals.noise(0.1, FRAMES, 3))
                .track("click", "main", Track.Kind.CUE, SampleEncoding.PCM_16, Signals.noise(0.1, FRAMES, 4))
                .build()
                .withStrip(id("voice"), s -> s.withSends(List.of(Send.toBus(id("hall"), -6))))
                .withStrip(id("snare"), s -> s.withSends(List.of(Send.toBus(id("echo"), -3))))
                .withStrip(
                        id("hall"),
                        s -> s.withInserts(List.of(
                                Insert.of(new SlotId("1"), Reverb.KIND), Insert.of(new SlotId("2"), Compressor.KIND))));
    }

    private static ChannelId id(String name) {
        return Sessions.id(name);
    }

    private static StemDivision named(NamedStem... stems) {
        return new StemDivision(StemDivision.By.NAMED, false, Arrays.asList(stems));
    }

    private static NamedStem stem(String name, String... members) {
        return new NamedStem(
                new ChannelId("stem-" + name),
                name,
                Arrays.stream(members).map(Sessions::id).toList());
    }

    private List<String> names(StemDivision division) {
        return StemGroups.names(session, division);
    }

    @Test
    void returns_are_what_sends_alone_feed_or_the_outputs_of_such() {
        assertThat(StemGroups.returns(session)).containsExactly(id("hall"), id("echo"));
        // A bus that a track's output feeds too is a group, whatever else is sent to it.
        Session sent = session.withStrip(
                id("voice"), s -> s.withSends(List.of(Send.toBus(id("hall"), 0), Send.toBus(id("drums"), 0))));
        assertThat(StemGroups.returns(sent)).containsExactly(id("hall"), id("echo"));
        assertThat(StemGroups.returns(session.withStrip(id("snare"), s -> s.withOutput(Output.to(id("hall"))))))
                .containsExactly(id("echo"));
    }

    @Test
    void tracks_buses_and_returns_are_stems_in_the_sessions_order() {
        assertThat(names(StemDivision.TRACKS)).containsExactlyInAnyOrder("kick", "snare", "voice", "click");
        assertThat(names(StemDivision.BUSES)).containsExactlyInAnyOrder("drums", "voice", "click");
        assertThat(names(StemDivision.BUSES.withReturnsApart(true)))
                .containsExactlyInAnyOrder("hall", "echo", "drums", "voice", "click");
    }

    @Test
    void what_is_put_together_by_hand_is_one_stem_and_the_rest_stands_by_itself() {
        assertThat(names(named(stem("Beat", "drums", "click"), stem("Room", "hall", "echo"), stem("Empty"))))
                .as("a cue is in no stem, an empty stem is none")
                .containsExactlyInAnyOrder("Beat", "Room", "voice", "click");
        // The nearest on a track's way decides.
        List<StemGroup> groups = StemGroups.of(session, named(stem("Kick", "kick"), stem("Others", "drums", "voice")));
        assertThat(groups.get(0).tracks()).containsExactly(id("kick"));
        assertThat(groups.get(1).tracks()).containsExactlyInAnyOrder(id("snare"), id("voice"));
    }

    @Test
    void every_track_and_every_return_is_in_just_one_stem() {
        for (StemDivision division : List.of(
                StemDivision.TRACKS,
                StemDivision.BUSES.withReturnsApart(true),
                named(stem("A", "drums", "hall"), stem("B", "snare", "voice")))) {
            List<StemGroup> groups = StemGroups.of(session, division);
            assertThat(groups.stream().flatMap(group -> group.tracks().stream()))
                    .containsExactlyInAnyOrder(id("kick"), id("snare"), id("voice"), id("click"));
            for (StemGroup group : groups) {
                assertThat(Collections.disjoint(group.returns(), group.otherReturns()))
                        .isTrue();
            }
        }
    }

    @Test
    void a_return_that_is_a_stem_has_all_that_is_sent_to_it_and_the_others_nothing_of_it() throws Exception {
        StemResult shared = render("shared", StemDivision.TRACKS);
        StemResult apart = render("apart", StemDivision.TRACKS.withReturnsApart(true));
        assertThat(shared.proof().nulls()).isTrue();
        assertThat(apart.proof().nulls()).as(apart.proof().inWords()).isTrue();
        // What the echo gives is heard through the hall alone, and is in its stem.
        assertThat(apart.files().stream().map(StemResult.Written::name))
                .containsExactly("Mix", "hall", "kick", "snare", "voice", "click");
        // What the voice is without the hall is what it is where there is no send.
        Session dry = session.withStrip(id("voice"), s -> s.withSends(List.of()));
        StemResult alone = render("dry", dry, StemDivision.TRACKS);
        assertThat(checksum(apart, "voice")).isEqualTo(checksum(alone, "voice"));
        assertThat(checksum(shared, "voice")).isNotEqualTo(checksum(alone, "voice"));
    }

    private static String checksum(StemResult result, String name) {
        return result.files().stream()
                .filter(file -> file.name().equals(name))
                .map(StemResult.Written::checksum)
                .findFirst()
                .orElseThrow();
    }

    private StemResult render(String out, StemDivision division) throws Exception {
        return render(out, session, division);
    }

    private StemResult render(String out, Session what, StemDivision division) throws Exception {
        StemRequest request = new StemRequest(
                        folder.resolve(out), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true)
                .with(StemSettings.USUAL.withDivision(division));
        return StemRender.render(what, folder, request, Progress.NONE);
    }
}
