package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.session.Bus;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class StemEditsTest {
    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void three_tracks_and_a_bus() throws Exception {
        session = new Sessions(folder)
                .bus("drums", "main")
                .track("kick", "drums", Signals.noise(0.1, 10, 1))
                .track("snare", "drums", Signals.noise(0.1, 10, 2))
                .track("voice", "main", Signals.noise(0.1, 10, 3))
                .build();
        session = StemEdits.add("Beat", List.of(Sessions.id("drums"))).apply(session);
    }

    private NamedStem stem(int place) {
        return session.stems().named().get(place);
    }

    private List<String> members(int place) {
        return stem(place).members().stream().map(Object::toString).toList();
    }

    @Test
    void a_channel_is_in_one_stem_at_most() {
        assertThat(session.stems().by()).isEqualTo(StemDivision.By.NAMED);
        session = StemEdits.add("Beat", List.of(Sessions.id("kick"), Sessions.id("voice")))
                .apply(session);
        assertThat(stem(1).name()).as("no two of one name").isEqualTo("Beat 2");
        session = StemEdits.put(stem(0), List.of(Sessions.id("kick"))).apply(session);
        assertThat(members(0)).containsExactly("drums", "kick");
        assertThat(members(1)).containsExactly("voice");
        session = StemEdits.takeOut(List.of(Sessions.id("drums"), Sessions.id("voice")))
                .apply(session);
        assertThat(members(0)).containsExactly("kick");
        assertThat(members(1)).isEmpty();
    }

    @Test
    void what_is_as_it_should_be_is_no_change() {
        assertThat(StemEdits.by(StemDivision.By.NAMED).apply(session)).isSameAs(session);
        assertThat(StemEdits.returnsApart(false).apply(session)).isSameAs(session);
        assertThat(StemEdits.returnsApart(true).apply(session).stems().returnsApart())
                .isTrue();
        assertThat(StemEdits.rename(stem(0), " Rhythm ").apply(session).stems().named())
                .extracting(NamedStem::name)
                .containsExactly("Rhythm");
        assertThat(StemEdits.remove(stem(0)).apply(session).stems().named()).isEmpty();
    }

    @Test
    void a_bus_that_is_taken_away_leaves_its_stem() {
        Bus bus = session.buses().getFirst();
        assertThat(bus.name()).isEqualTo("drums");
        session = FlowEdits.removeBus(bus).apply(session);
        assertThat(members(0)).isEmpty();
    }
}
