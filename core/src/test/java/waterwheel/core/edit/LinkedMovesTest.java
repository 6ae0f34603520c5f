package waterwheel.core.edit;

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
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.LinkGroup.Attribute;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class LinkedMovesTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId THREE = Sessions.id("three");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void two_linked_tracks_10_dB_apart_and_one_by_itself() throws Exception {
        float[] silence = new float[10];
        session = new Sessions(folder)
                .track("one", "main", silence)
                .track("two", "main", silence)
                .track("three", "main", silence)
                .build();
        session = session.withStrip(TWO, s -> s.withFaderDb(-10));
        session = GroupEdits.addLink("Pair", List.of(ONE, TWO)).apply(session);
    }

    private static double fader(Session of, ChannelId id) {
        return of.channel(id).strip().faderDb();
    }

    private Session set(Session of, ChannelId id, double db) {
        return Edits.fader(of.channel(id), db).apply(of);
    }

    @Test
    void move_by_as_much_and_leave_others_alone() {
        Session moved = set(session, ONE, -3);
        assertThat(fader(moved, ONE)).isEqualTo(-3);
        assertThat(fader(moved, TWO)).isEqualTo(-13);
        assertThat(fader(moved, THREE)).isZero();
    }

    @Test
    void keep_their_distance_past_both_ends_of_the_travel() {
        // One would stand at +22 when two is at +12.
        Session top = set(session, TWO, 12);
        assertThat(fader(top, ONE)).isEqualTo(12);
        assertThat(fader(top, TWO)).isEqualTo(12);
        Session back = set(top, TWO, -20);
        assertThat(fader(back, ONE)).isCloseTo(-10, within(1e-9));
        Session silent = set(back, ONE, Double.NEGATIVE_INFINITY);
        assertThat(fader(silent, ONE)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(fader(silent, TWO)).isEqualTo(Double.NEGATIVE_INFINITY);
        Session again = set(silent, ONE, -4);
        assertThat(fader(again, ONE)).isEqualTo(-4);
        assertThat(fader(again, TWO)).isCloseTo(-14, within(1e-9));
    }

    @Test
    void one_that_is_moved_alone_keeps_its_new_distance() {
        Session top = set(session, TWO, 12);
        Session alone = Edits.faderAlone(top.channel(ONE), 5).apply(top);
        assertThat(fader(alone, TWO)).isEqualTo(12);
        assertThat(fader(set(alone, TWO, 2), ONE)).isEqualTo(-5);
    }

    @Test
    void each_moves_once_when_several_of_a_group_are_selected() {
        Session moved = Edits.fadersBy(List.of(session.channel(ONE), session.channel(TWO)), -6)
                .apply(session);
        assertThat(fader(moved, ONE)).isEqualTo(-6);
        assertThat(fader(moved, TWO)).isEqualTo(-16);
    }

    @Test
    void one_that_came_back_from_beyond_its_end_is_where_it_is_set() {
        // One would stand at +22; set to +10 it stands there, and the other is still 10 dB below.
        Session top = set(session, TWO, 12);
        Session back = Edits.fadersTo(List.of(top.channel(ONE), top.channel(THREE)), top.channel(ONE), 10)
                .apply(top);
        assertThat(fader(back, ONE)).isEqualTo(10);
        assertThat(fader(back, TWO)).isCloseTo(0, within(1e-9));
        assertThat(fader(back, THREE)).as("as far as is seen, from +12 to +10").isCloseTo(-2, within(1e-9));
    }

    @Test
    void selected_ones_that_are_not_linked_are_all_set_to_silence() {
        Session free = GroupEdits.removeLink(session.links().getFirst()).apply(session);
        Session silent = Edits.fadersTo(
                        List.of(free.channel(ONE), free.channel(TWO)), free.channel(ONE), Double.NEGATIVE_INFINITY)
                .apply(free);
        assertThat(fader(silent, ONE)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(fader(silent, TWO)).isEqualTo(Double.NEGATIVE_INFINITY);
        assertThat(fader(Edits.fader(silent.channel(TWO), -7).apply(silent), TWO))
                .isEqualTo(-7);
    }

    @Test
    void an_exempt_member_stays_and_only_chosen_controls_are_linked() {
        LinkGroup pair = session.links().getFirst();
        Session exempt = GroupEdits.linkExempt(pair, TWO, true).apply(session);
        assertThat(fader(set(exempt, ONE, -3), TWO)).isEqualTo(-10);
        Session mutes = GroupEdits.link(pair, l -> l.withAttributes(Set.of(Attribute.MUTE)))
                .apply(session);
        assertThat(fader(set(mutes, ONE, -3), TWO)).isEqualTo(-10);
        Session muted = Edits.mute(mutes.channel(TWO), true).apply(mutes);
        assertThat(muted.channel(ONE).strip().muted()).isTrue();
        assertThat(Edits.solo(muted.channel(TWO), true)
                        .apply(muted)
                        .channel(ONE)
                        .strip()
                        .soloed())
                .isFalse();
        assertThat(Edits.trim(session.channel(ONE), 4)
                        .apply(session)
                        .channel(TWO)
                        .strip()
                        .trimDb())
                .isZero();
    }
}
