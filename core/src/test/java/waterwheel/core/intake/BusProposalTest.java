package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class BusProposalTest {
    @TempDir
    Path folder;

    private Session session(String... names) throws Exception {
        Sessions made = new Sessions(folder);
        for (int i = 0; i < names.length; i++) {
            made.track("t" + i, "main", new float[10]);
        }
        Session session = made.build();
        for (int i = 0; i < names.length; i++) {
            String name = names[i];
            session = session.withChannel(Sessions.id("t" + i), c -> c.withName(name));
        }
        return session;
    }

    @Test
    void families_of_two_or_more_get_a_bus_each() throws Exception {
        Session session = session(
                "Kick in", "Snare", "Bodhrán", "Violin 1", "Cello", "Lead vox", "Chorus 2", "Double bass", "Theremin");
        List<BusProposal> proposals = BusProposal.of(session);
        assertThat(proposals).extracting(BusProposal::name).containsExactly("Voices", "Percussion", "Strings");
        assertThat(proposals.get(1).members()).hasSize(3);
        Session after = BusProposal.accept(session, proposals).apply(session);
        assertThat(after.buses()).extracting(Channel::name).contains("Voices", "Percussion", "Strings");
        assertThat(BusProposal.of(after)).as("nothing is left to propose").isEmpty();
        assertThat(after.channel(Sessions.id("t8")).strip().output()).isEqualTo(Output.to(after.mainId()));
        assertThat(after.channel(Sessions.id("t3")).strip().output())
                .isEqualTo(after.channel(Sessions.id("t4")).strip().output())
                .isNotEqualTo(Output.to(after.mainId()));
    }

    @Test
    void words_count_as_whole_words_only() throws Exception {
        // 'harp' is not in 'sharp', 'ride' not in 'bride'.
        assertThat(BusProposal.of(session("Sharpener", "Bride", "Sharp thing"))).isEmpty();
    }
}
