package waterwheel.core.rides;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.rides.CurvePoint.Shape;
import waterwheel.core.session.Clip;
import waterwheel.core.sources.SourceId;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class CurveTest {
    private final Curve curve = new Curve(List.of(
            new CurvePoint(100, 2, Shape.LINE),
            new CurvePoint(200, 4, Shape.HOLD),
            new CurvePoint(300, -4, Shape.SMOOTH),
            new CurvePoint(400, 0, Shape.LINE)));

    @Test
    void each_shape_goes_its_way() {
        assertThat(curve.at(0)).isEqualTo(2);
        assertThat(curve.at(150)).isEqualTo(3);
        assertThat(curve.at(299)).isEqualTo(4);
        assertThat(curve.at(300)).isEqualTo(-4);
        // A quarter along half a cosine: (1 - cos 45°) / 2 of the way.
        assertThat(curve.at(325)).isCloseTo(-4 + 4 * 0.146447, within(1e-5));
        assertThat(curve.at(9_999)).isZero();
    }

    @Test
    void no_curve_adds_nothing() {
        assertThat(Curve.NONE.at(5)).isZero();
        assertThat(Curve.NONE.isNone()).isTrue();
    }

    @Test
    void a_point_is_added_in_its_place_moved_and_taken_out() {
        Curve more = curve.with(new CurvePoint(250, 1, Shape.LINE));
        assertThat(more.points()).extracting(CurvePoint::frame).containsExactly(100L, 200L, 250L, 300L, 400L);
        assertThat(more.with(new CurvePoint(250, 7, Shape.LINE)).at(250)).isEqualTo(7);
        assertThat(more.without(250)).isEqualTo(curve);
    }

    @Test
    void points_in_disorder_are_refused() {
        assertThatIllegalArgumentException()
                .isThrownBy(
                        () -> new Curve(List.of(new CurvePoint(5, 0, Shape.LINE), new CurvePoint(5, 1, Shape.LINE))))
                .withMessageContaining("growing frames");
    }

    @Test
    void fades_longer_than_the_clip_are_refused() {
        Clip clip = new Clip(new SourceId("s"), 0, 0, 100, 0);
        assertThat(clip.withFades(60, 40).shaped()).isTrue();
        assertThatIllegalArgumentException()
                .isThrownBy(() -> clip.withFades(60, 41))
                .withMessageContaining("at most the clip's 100");
    }
}
