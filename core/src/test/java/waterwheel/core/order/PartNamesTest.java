package waterwheel.core.order;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PartNamesTest {
    private final RunningOrder order = RunningOrder.empty("Evening");

    @ParameterizedTest
    @CsvSource({
        "01 Drums, Drums",
        "kick in, Drums",
        "Bodhrán close, Drums",
        "Bass drum, Drums",
        "Bass DI, Bass",
        "02_BASS, Bass",
        "Lead vox, Voices",
        "backing vocals, Voices",
        "Backing, Tracks",
        "Playback L, Tracks",
        "Click, Click",
        "Count-in, Cues",
        "Harmonium, Keys",
        "Glass armonica, Glass armonica",
        "glass   ARMONICA, Glass armonica"
    })
    void a_stem_is_the_part_that_its_name_says(String stem, String part) {
        assertThat(order.partOf(stem)).isEqualTo(part);
    }

    @ParameterizedTest
    @CsvSource({"Mix", "Stereo mix", "00 Master"})
    void a_mix_beside_its_stems_is_no_part(String stem) {
        assertThat(order.partOf(stem)).isEqualTo(RunningOrder.LEFT_OUT);
    }

    @Test
    void what_was_said_of_a_name_holds_in_all_its_spellings() {
        RunningOrder said = order.withName("03 Glass_Armonica", "Keys").withName("Mix", "Tracks");
        assertThat(said.partOf("Glass armonica")).isEqualTo("Keys");
        assertThat(said.partOf("12 glass-armonica")).isEqualTo("Keys");
        assertThat(said.partOf("mix")).isEqualTo("Tracks");
        assertThat(said.withName("Drums", RunningOrder.LEFT_OUT).partOf("drums"))
                .isEqualTo(RunningOrder.LEFT_OUT);
    }

    @Test
    void clicks_and_cues_are_cues_until_somebody_says_otherwise() {
        assertThat(order.part("Click").cue()).isTrue();
        assertThat(order.part("Cues").cue()).isTrue();
        assertThat(order.part("Drums").cue()).isFalse();
        assertThat(order.with(order.part("Click").withCue(false)).part("Click").cue())
                .isFalse();
    }

    @Test
    void a_part_has_the_common_target_or_its_own() {
        RunningOrder aimed =
                order.withTarget(Target.USUAL.withLufs(-18)).with(new Part("Bass", false, OptionalDouble.of(-22)));
        assertThat(aimed.targetLufs("Drums")).isEqualTo(-18);
        assertThat(aimed.targetLufs("Bass")).isEqualTo(-22);
    }

    @Test
    void one_tolerance_away_is_within_and_two_are_near() {
        Target target = Target.USUAL.withToleranceLu(1);
        assertThat(target.nearness(1)).isEqualTo(Target.Nearness.WITHIN);
        assertThat(target.nearness(-1.01)).isEqualTo(Target.Nearness.NEAR);
        assertThat(target.nearness(2)).isEqualTo(Target.Nearness.NEAR);
        assertThat(target.nearness(-2.01)).isEqualTo(Target.Nearness.OFF);
        assertThat(target.nearness(Double.NEGATIVE_INFINITY)).isEqualTo(Target.Nearness.OFF);
    }

    @Test
    void songs_get_ids_that_no_other_has() {
        RunningOrder songs = order.withSong("a", "A").withSong("b", "B").withSong("c", "C");
        RunningOrder fewer = songs.withoutSong(new SongId("s2"));
        assertThat(fewer.withSong("b", "B again").songs().stream().map(Song::id).distinct())
                .hasSize(3);
        assertThatIllegalArgumentException()
                .isThrownBy(() -> order.withSongs(
                        List.of(new Song(new SongId("s1"), "a", "A"), new Song(new SongId("s1"), "b", "B"))));
    }
}
