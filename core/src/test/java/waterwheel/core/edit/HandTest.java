package waterwheel.core.edit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.processing.Limiter;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HandTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId VCA = Sessions.id("vca");

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void a_session_with_every_kind_of_control() throws Exception {
        session = new Sessions(folder)
                .track("one", "main", new float[1_000])
                .track("two", "main", new float[1_000])
                .bus("room", "main")
                .build()
                .withStrip(ONE, s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Equaliser.KIND)))
                        .withSends(List.of(
                                Send.toBus(Sessions.id("room"), -6).withPlacement(Optional.of(Placement.CENTRE)))))
                .withVcas(List.of(new Vca(VCA, "All", 0, false, List.of(ONE), List.of())));
    }

    private static CurvePoint line(long frame, double value) {
        return new CurvePoint(frame, value, CurvePoint.Shape.LINE);
    }

    private Session moved(Session before, ControlId id, double value) {
        List<waterwheel.core.session.Channel> own =
                before.find(id.owner()).map(List::of).orElse(List.of());
        return Hand.move(before, id, own, 500, value).apply(before);
    }

    /** A value in the middle of a control's range that it does not have now. */
    private double other(ControlId id) {
        var control = Controls.control(session, id);
        double set = Controls.set(session, id);
        if (control.scale() == Scale.SWITCH) {
            return set == 0 ? 1 : 0;
        }
        double half = (control.least() + control.most()) / 2;
        return half == set ? (half + control.most()) / 2 : half;
    }

    @Test
    void every_control_of_every_owner_reads_what_the_hand_says_whether_ridden_or_not() {
        for (ChannelId owner : List.of(ONE, VCA, Sessions.id("room"), Sessions.MAIN)) {
            for (ControlId id : Controls.of(session, owner)) {
                double value = other(id);
                Session set = moved(session, id, value);
                assertThat(Controls.reading(set, id, 500)).as("%s", id).isCloseTo(value, within(1e-9));
                assertThat(Controls.ride(set, id)).as("%s", id).isEmpty();
                if (Controls.control(session, id).scale() != Scale.SWITCH) {
                    Session ridden = RideEdits.add(session, id).apply(session);
                    Curve written = Controls.ride(ridden, id).orElseThrow().curve();
                    Session after = moved(ridden, id, value);
                    assertThat(Controls.reading(after, id, 500)).as("%s", id).isCloseTo(value, within(1e-9));
                    assertThat(Controls.ride(after, id).orElseThrow().curve())
                            .as("%s", id)
                            .isEqualTo(written);
                }
            }
        }
    }

    @Test
    void what_a_clip_lays_on_a_control_is_reckoned_with() {
        ControlId position = ControlId.ofStrip(ONE, "position");
        ControlId fader = ControlId.ofStrip(ONE, "faderDb");
        Session clips = session.withChannel(ONE, c -> {
            Track track = (Track) c;
            return track.withClips(track.clips().stream()
                    .map(clip -> clip.withRide(new ClipRide(
                                    new ControlId.OfStrip(), "position", new Curve(List.of(line(0, 0.25)))))
                            .withRide(
                                    new ClipRide(new ControlId.OfStrip(), "faderDb", new Curve(List.of(line(0, -5))))))
                    .toList());
        });
        assertThat(Controls.reading(moved(clips, position, 0.75), position, 500))
                .isCloseTo(0.75, within(1e-9));
        assertThat(Controls.set(moved(clips, position, 0.75), position)).isCloseTo(0.5, within(1e-9));
        assertThat(Controls.reading(moved(clips, fader, -8), fader, 500)).isCloseTo(-8, within(1e-9));
        assertThat(Controls.set(moved(clips, fader, -8), fader)).isCloseTo(-3, within(1e-9));
    }

    @Test
    void a_fader_takes_what_is_meant_along_by_as_much_as_the_hand_moved_it() {
        ControlId fader = ControlId.ofStrip(ONE, "faderDb");
        Session ridden = Controls.with(session, fader, Ride.of(new Curve(List.of(line(0, -10)))));
        List<waterwheel.core.session.Channel> both = List.of(ridden.channel(ONE), ridden.channel(TWO));
        Session after = Hand.move(ridden, fader, both, 500, -7).apply(ridden);
        assertThat(Controls.reading(after, fader, 500)).isCloseTo(-7, within(1e-9));
        assertThat(after.channel(TWO).strip().faderDb()).isCloseTo(3, within(1e-9));
        Session alone = Hand.move(ridden, fader, List.of(), 500, -7).apply(ridden);
        assertThat(Controls.reading(alone, fader, 500)).isCloseTo(-7, within(1e-9));
        assertThat(alone.channel(TWO).strip().faderDb()).isEqualTo(0);
        Session silent = moved(session, fader, Double.NEGATIVE_INFINITY);
        assertThat(silent.channel(ONE).strip().faderDb()).isEqualTo(Double.NEGATIVE_INFINITY);
    }

    @Test
    void what_cannot_be_ridden_is_set_by_hand_all_the_same() {
        SlotId limiter = new SlotId("2");
        SlotId loop = new SlotId("3");
        Session with = session.withStrip(
                ONE, s -> s.withInserts(List.of(Insert.of(limiter, Limiter.KIND), Insert.of(loop, HardwareLoop.KIND))));
        String built = Limiter.KIND.parameters().stream()
                .filter(Parameter::built)
                .findFirst()
                .orElseThrow()
                .key();
        double value = Limiter.KIND.parameter(built).most();
        assertThat(insert(moved(with, ControlId.ofInsert(ONE, limiter, built), value), 0)
                        .processor()
                        .value(built))
                .isEqualTo(value);
        assertThat(insert(moved(with, ControlId.ofInsert(ONE, loop, "bypassed"), 1), 1)
                        .bypassed())
                .isTrue();
        assertThat(insert(moved(with, ControlId.ofInsert(ONE, loop, "inputDb"), -40), 1)
                        .inputDb())
                .isEqualTo(-Insert.GAIN_LIMIT_DB);
        assertThat(insert(moved(with, ControlId.ofInsert(ONE, loop, "mix"), 0.5), 1)
                        .mix())
                .isEqualTo(0.5);
        ControlId gone = ControlId.ofInsert(ONE, new SlotId("4"), "mix");
        assertThat(Controls.settable(with, gone)).isFalse();
        assertThat(moved(with, gone, 0.5)).isEqualTo(with);
    }

    private static Insert insert(Session session, int place) {
        return session.channel(ONE).strip().inserts().get(place);
    }
}
