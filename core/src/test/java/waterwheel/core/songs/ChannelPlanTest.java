package waterwheel.core.songs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.tuple;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.order.Part;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ChannelPlanTest {
    private static List<Part> parts(int music, int cues) {
        List<Part> parts = new ArrayList<>();
        for (int i = 0; i < music; i++) {
            parts.add(new Part("m" + i, false, OptionalDouble.empty()));
        }
        for (int i = 0; i < cues; i++) {
            parts.add(new Part("c" + i, true, OptionalDouble.empty()));
        }
        return parts;
    }

    private static List<String> lanes(int channels, int music, int cues) {
        return ChannelPlan.of(channels, parts(music, cues)).lanes().stream()
                .map(lane -> lane.planes() + " " + String.join("+", lane.parts()))
                .toList();
    }

    @Test
    void sides_are_music_left_and_cues_right() {
        assertThat(ChannelPlan.sides(parts(3, 2)).lanes())
                .extracting(ChannelPlan.Lane::planes, lane -> lane.parts().size())
                .containsExactly(tuple(1, 3), tuple(1, 2));
    }

    @Test
    void music_has_pairs_and_cues_a_channel_each() {
        assertThat(lanes(4, 3, 1)).containsExactly("2 m0+m1+m2", "1 c0", "1 ");
        assertThat(lanes(6, 3, 2)).containsExactly("2 m0", "2 m1+m2", "1 c0", "1 c1");
        assertThat(lanes(8, 3, 1)).containsExactly("2 m0", "2 m1", "2 m2", "1 c0", "1 ");
        assertThat(lanes(3, 2, 0)).containsExactly("2 m0+m1", "1 ");
    }

    @Test
    void a_file_has_two_to_eight_channels() {
        assertThatIllegalArgumentException().isThrownBy(() -> ChannelPlan.of(1, parts(1, 1)));
        assertThatIllegalArgumentException().isThrownBy(() -> ChannelPlan.of(9, parts(1, 1)));
    }

    @Property
    void every_part_has_its_place_once_and_every_channel_is_there(
            @ForAll @IntRange(min = 2, max = 8) int channels,
            @ForAll @IntRange(max = 9) int music,
            @ForAll @IntRange(max = 5) int cues) {
        ChannelPlan plan = ChannelPlan.of(channels, parts(music, cues));
        assertThat(plan.channels()).isEqualTo(channels);
        assertThat(plan.lanes().stream().flatMap(lane -> lane.parts().stream()).toList())
                .containsExactlyElementsOf(
                        parts(music, cues).stream().map(Part::name).toList());
        assertThat(plan.lanes())
                .allMatch(lane -> lane.parts().stream().noneMatch(name -> name.startsWith("c"))
                        || lane.parts().stream().noneMatch(name -> name.startsWith("m")));
    }
}
