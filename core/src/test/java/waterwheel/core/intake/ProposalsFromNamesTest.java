package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ProposalsFromNamesTest {
    @Nested
    class Track_names {
        @Test
        void lose_numbers_underscores_and_take_marks() {
            assertThat(TrackNames.of(List.of("01_Kick_In", "02_Lead_Voice_take 3", "03-Fiddle (2)")))
                    .containsExactly("Kick In", "Lead Voice", "Fiddle");
        }

        @Test
        void lose_what_all_begin_with() {
            assertThat(TrackNames.of(List.of("Reel_01_Kick", "Reel_02_Snare", "Reel_03_Bass")))
                    .containsExactly("Kick", "Snare", "Bass");
        }

        @Test
        void keep_what_tells_them_apart() {
            assertThat(TrackNames.of(List.of("Voice take 1", "Voice take 2", "Bass")))
                    .containsExactly("Voice take 1", "Voice take 2", "Bass");
            assertThat(TrackNames.of(List.of("808", "Tom 1", "Tom 2"))).containsExactly("808", "Tom 1", "Tom 2");
        }

        @Test
        void are_never_empty_nor_twice_the_same() {
            assertThat(TrackNames.of(List.of("_", "Bass", "bass"))).containsExactly("Track", "Bass", "bass 2");
        }
    }

    @ParameterizedTest
    @CsvSource({
        "Kick In, PERCUSSIVE",
        "Bodhrán close, PERCUSSIVE",
        "Hi-Hat, PERCUSSIVE",
        "Click, CUE",
        "Count-in voice, CUE",
        "Lead Voice, SUSTAINED",
        "Bass, SUSTAINED",
        "Atom Synth, SUSTAINED",
        "Snaresong, SUSTAINED"
    })
    void kinds_are_proposed_from_whole_words(String name, Track.Kind kind) {
        assertThat(KindProposal.of(name, OptionalDouble.empty())).isEqualTo(kind);
    }

    @Test
    void a_high_crest_factor_speaks_for_percussion_where_the_name_says_nothing() {
        assertThat(KindProposal.of("Audio 7", OptionalDouble.of(24))).isEqualTo(Track.Kind.PERCUSSIVE);
        assertThat(KindProposal.of("Audio 8", OptionalDouble.of(12))).isEqualTo(Track.Kind.SUSTAINED);
        assertThat(KindProposal.of("Click", OptionalDouble.of(30))).isEqualTo(Track.Kind.CUE);
    }

    @Nested
    class Stereo_pairs {
        @TempDir
        Path folder;

        private Session named(String first, String second, int secondFrames) throws Exception {
            Session session = new Sessions(folder)
                    .track("one", "main", Signals.noise(0.1, 1_000, 1))
                    .track("two", "main", Signals.noise(0.1, secondFrames, 2))
                    .build();
            return session.withChannel(Sessions.id("one"), c -> c.withName(first))
                    .withChannel(Sessions.id("two"), c -> c.withName(second));
        }

        @ParameterizedTest
        @CsvSource({"Piano L, Piano R", "Room left, Room right", "OH.L, OH.R", "Melodeon Right, Melodeon Left"})
        void are_found_by_their_names(String first, String second) throws Exception {
            List<StereoPair> pairs = StereoPair.of(named(first, second, 1_000));
            assertThat(pairs).hasSize(1);
            assertThat(pairs.getFirst().left().name()).containsIgnoringCase("L");
            assertThat(pairs.getFirst().name()).isEqualTo(first.split("[ .]", 2)[0]);
        }

        @ParameterizedTest
        @CsvSource({"Piano L, Organ R", "Piano L, Piano L", "MARSHAL, MARSHAR", "L, R"})
        void need_one_name_and_two_sides(String first, String second) throws Exception {
            assertThat(StereoPair.of(named(first, second, 1_000))).isEmpty();
        }

        @Test
        void need_one_length() throws Exception {
            assertThat(StereoPair.of(named("Piano L", "Piano R", 1_001))).isEmpty();
        }
    }
}
