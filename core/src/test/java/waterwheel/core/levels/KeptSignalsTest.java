package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
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
import waterwheel.core.engine.SamplePool;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

/** Samples are kept within a bound of memory, and memory is used again. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class KeptSignalsTest {
    private static final long FRAMES = 3 * SamplePool.CHUNK;
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

    /** A stereo signal that is nowhere silent. */
    private KeptSignal sound() {
        KeptSignal signal = room(2, Set.of());
        float[] loud = new float[(int) FRAMES];
        Arrays.fill(loud, 1);
        signal.write(0, 0, loud, 0, loud.length);
        signal.write(1, 0, loud, 0, loud.length);
        return signal;
    }

    @Test
    void what_was_not_asked_for_the_longest_gives_way() {
        List<SignalKey> keys = keys(4);
        KeptSignal first = sound();
        kept.put(keys.get(0), first);
        kept.put(keys.get(1), sound());
        kept.put(keys.get(2), sound());
        assertThat(kept.find(keys.get(0))).as("asked for now").isSameAs(first);
        kept.put(keys.get(3), sound());
        assertThat(kept.find(keys.get(0))).isSameAs(first);
        assertThat(kept.find(keys.get(1))).isNull();
        assertThat(kept.find(keys.get(3))).isNotNull();
    }

    @Test
    void what_is_being_read_stays_and_there_may_be_no_room() {
        List<SignalKey> keys = keys(3);
        keys.forEach(key -> kept.put(key, sound()));
        Set<KeptSignal> inUse =
                keys.stream().map(key -> Objects.requireNonNull(kept.find(key))).collect(Collectors.toSet());
        assertThat(kept.room(2, FRAMES, inUse)).isNull();
        assertThat(keys).allSatisfy(key -> assertThat(kept.find(key)).isNotNull());
    }

    @Test
    void room_that_was_not_wanted_after_all_is_there_for_others() {
        List<KeptSignal> three =
                Stream.generate(() -> room(2, Set.of())).limit(3).toList();
        assertThat(kept.room(2, FRAMES, Set.of())).as("all is promised").isNull();
        kept.release(three.getFirst());
        assertThat(kept.room(2, FRAMES, Set.of())).isNotNull();
    }

    @Test
    void the_session_before_is_kept_for_an_undo_and_none_older() {
        List<SignalKey> keys = keys(3);
        kept.put(keys.get(0), sound());
        kept.standAt(List.of(keys.get(0)));
        kept.put(keys.get(1), sound());
        kept.standAt(List.of(keys.get(1)));
        kept.standAt(List.of(keys.get(1)));
        assertThat(kept.find(keys.get(0))).as("an undo goes back to it").isNotNull();
        kept.standAt(List.of(keys.get(0)));
        assertThat(kept.find(keys.get(1))).as("a redo to this").isNotNull();
        kept.put(keys.get(2), sound());
        kept.standAt(List.of(keys.get(2)));
        assertThat(kept.find(keys.get(0))).isNotNull();
        assertThat(kept.find(keys.get(1))).isNull();
        assertThat(kept.find(keys.get(2))).isNotNull();
    }

    @Test
    void what_only_an_undo_would_want_gives_way_before_more_memory_is_taken() {
        kept.close();
        kept = new KeptSignals(Long.MAX_VALUE);
        List<SignalKey> keys = keys(3);
        keys.forEach(key -> kept.put(key, sound()));
        kept.standAt(List.of(keys.get(0), keys.get(2)));
        room(100, Set.of());
        assertThat(kept.find(keys.get(0))).isNotNull();
        assertThat(kept.find(keys.get(1))).as("the one that is spare").isNull();
        assertThat(kept.find(keys.get(2))).isNotNull();
    }

    @Test
    void memory_made_before_is_there_at_once() {
        kept.close();
        kept = new KeptSignals(Long.MAX_VALUE);
        long bytes = 70 * SamplePool.CHUNK_BYTES;
        assertThat(kept.reserve(bytes)).as("one piece of two is there").isFalse();
        assertThat(kept.reserve(bytes)).isFalse();
        assertThat(kept.reserve(bytes)).as("nothing to do").isTrue();
        assertThat(kept.usedBytes()).isZero();
    }

    @Test
    void no_memory_is_made_beyond_the_bound() {
        kept.close();
        kept = new KeptSignals(SamplePool.CHUNK_BYTES);
        assertThat(kept.reserve(Long.MAX_VALUE)).as("one piece, to begin with").isFalse();
        assertThat(kept.reserve(Long.MAX_VALUE)).isTrue();
    }
}
