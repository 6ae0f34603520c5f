package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.engine.KeptSignal;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

/** Samples are kept within a bound of memory, and memory is used again. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class KeptSignalsTest {
    private static final long FRAMES = 1_000;
    private static final long STEREO = KeptSignal.bytes(2, FRAMES);

    private KeptSignals kept = new KeptSignals(3 * STEREO);

    @AfterEach
    void give_the_memory_back() {
        kept.close();
    }

    /** Unlike keys, of sessions with unlike positions. */
    private static List<SignalKey> keys(int count) {
        List<SignalKey> keys = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            Session session = Sessions.monoAt(0.01 * i, PanLaw.MINUS_3);
            Plan plan = PlanCompiler.compile(session);
            try (Media media = Media.open(session, Path.of(""))) {
                keys.add(SignalKey.of(plan, media).get(plan.output()));
            }
        }
        return keys;
    }

    private KeptSignal room(int planes, Set<KeptSignal> inUse) {
        return Objects.requireNonNull(kept.room(planes, FRAMES, inUse));
    }

    @Test
    void what_was_not_asked_for_the_longest_gives_way() {
        List<SignalKey> keys = keys(4);
        KeptSignal first = room(2, Set.of());
        kept.put(keys.get(0), first);
        kept.put(keys.get(1), room(2, Set.of()));
        kept.put(keys.get(2), room(2, Set.of()));
        assertThat(kept.find(keys.get(0))).as("asked for now").isSameAs(first);
        kept.put(keys.get(3), room(2, Set.of()));
        assertThat(kept.find(keys.get(0))).isSameAs(first);
        assertThat(kept.find(keys.get(1))).isNull();
        assertThat(kept.find(keys.get(3))).isNotNull();
    }

    @Test
    void what_is_being_read_stays_and_there_may_be_no_room() {
        List<SignalKey> keys = keys(3);
        Set<KeptSignal> inUse =
                Stream.generate(() -> room(2, Set.of())).limit(3).collect(Collectors.toSet());
        int i = 0;
        for (KeptSignal one : inUse) {
            kept.put(keys.get(i++), one);
        }
        assertThat(kept.room(2, FRAMES, inUse)).isNull();
        assertThat(keys).allSatisfy(key -> assertThat(kept.find(key)).isNotNull());
    }

    @Test
    void released_memory_is_used_again() {
        KeptSignal one = room(2, Set.of());
        kept.release(one);
        assertThat(room(2, Set.of())).isSameAs(one);
    }

    @Test
    void what_no_session_has_any_more_is_forgotten_but_for_the_latest() {
        List<SignalKey> keys = keys(3);
        keys.forEach(key -> kept.put(key, room(2, Set.of())));
        kept.keepOnly(List.of(keys.get(0)), 1);
        assertThat(kept.find(keys.get(0))).isNotNull();
        assertThat(kept.find(keys.get(1))).isNull();
        assertThat(kept.find(keys.get(2))).isNotNull();
    }

    @Test
    void room_made_before_is_found_at_once_and_never_more_than_the_bound() {
        assertThat(kept.reserve(2, FRAMES, 2)).as("one of two is there").isFalse();
        assertThat(kept.reserve(2, FRAMES, 2)).isTrue();
        assertThat(kept.reserve(2, FRAMES, 2)).as("nothing to do").isTrue();
        room(2, Set.of());
        room(2, Set.of());
        room(2, Set.of());
        assertThat(kept.reserve(2, FRAMES, 1)).as("no more memory may be taken").isTrue();
        assertThat(kept.room(2, FRAMES, Set.of())).isNull();
    }

    @Test
    void memory_that_a_song_of_another_length_left_is_given_back() {
        for (int i = 0; i < 3; i++) {
            kept.release(Objects.requireNonNull(kept.room(2, FRAMES - 10, Set.of())));
        }
        List<KeptSignal> now = List.of(room(2, Set.of()), room(2, Set.of()));
        assertThat(now).allSatisfy(one -> assertThat(one.frames()).isEqualTo(FRAMES));
    }
}
