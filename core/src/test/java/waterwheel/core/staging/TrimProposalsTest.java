package waterwheel.core.staging;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.stream.Collectors;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.StageLevel;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.StagingTargets;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.staging.TrimProposal.Reason;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class TrimProposalsTest {
    private static final ChannelId MAIN = new ChannelId("main");

    private final List<Channel> channels = new ArrayList<>();
    private final Map<ChannelId, ChannelLevels> levels = new HashMap<>();

    private ChannelId track(String name, Track.Kind kind, double averageDbfs, double peakDbfs, double noiseDbfs) {
        ChannelId id = new ChannelId(name);
        channels.add(new Track(id, name, kind, 1, List.of(), Strip.unity(Output.to(MAIN))));
        Figures figures = new Figures(
                peakDbfs,
                1,
                peakDbfs,
                averageDbfs,
                averageDbfs,
                averageDbfs - 3,
                averageDbfs + 3,
                noiseDbfs,
                averageDbfs - 1,
                averageDbfs + 2,
                averageDbfs + 1,
                4,
                Double.NaN);
        levels.put(
                id,
                new ChannelLevels(
                        id,
                        List.of(new StageLevel(Stage.SOURCE, figures), new StageLevel(Stage.CLIPS, figures)),
                        List.of()));
        return id;
    }

    private Session session() {
        List<Channel> all = new ArrayList<>(channels);
        all.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        return new Session("Test", 48_000, PanLaw.MINUS_3, -18, List.of(), all, MAIN, List.of());
    }

    private TrimProposals propose(Session session, Aim aim) {
        Set<ChannelId> all = session.channels().stream().map(Channel::id).collect(Collectors.toSet());
        return TrimProposals.of(
                new SessionLevels(
                        session, levels, null, null, Map.of(), Map.of(), Map.of(), Map.of(), List.of(), List.of(),
                        true),
                all,
                aim);
    }

    private TrimProposal only(Aim aim) {
        return propose(session(), aim).list().getFirst();
    }

    @Test
    void sustained_material_is_brought_to_the_nominal_level_by_its_average() {
        track("fiddle", Track.Kind.SUSTAINED, -11.3, -1, -80);
        TrimProposal proposal = only(Aim.EACH_BY_KIND);
        assertThat(proposal.proposedDb()).isCloseTo(-6.7, within(1e-9));
        assertThat(proposal.reason()).isEqualTo(Reason.AVERAGE);
        assertThat(proposal.averageDbfs()).isCloseTo(-18, within(1e-9));
        assertThat(proposal.peakDbfs()).isCloseTo(-7.7, within(1e-9));
    }

    @Test
    void percussive_material_is_brought_to_its_target_by_its_peak() {
        track("drum", Track.Kind.PERCUSSIVE, -30, -3, -80);
        TrimProposal proposal = only(Aim.EACH_BY_KIND);
        assertThat(proposal.proposedDb()).isCloseTo(-7, within(1e-9));
        assertThat(proposal.reason()).isEqualTo(Reason.PEAK);
    }

    @Test
    void the_guard_holds_a_peak_that_the_average_would_let_pass_and_says_so() {
        // 22 dB of crest: -18 dBFS of average would put the peak at +4.
        track("voice", Track.Kind.SUSTAINED, -36, -13.97, -80);
        TrimProposal proposal = only(Aim.EACH_BY_KIND);
        assertThat(proposal.reason()).isEqualTo(Reason.GUARD);
        assertThat(proposal.proposedDb()).as("a step below, never above").isCloseTo(7.9, within(1e-9));
        assertThat(proposal.peakDbfs()).isLessThanOrEqualTo(-6);
    }

    @Test
    void a_rounding_to_the_next_step_does_not_pass_a_guard_that_lies_at_the_target() {
        // Found by the property below: 0.51 to -10 dBFS is -10.51, which rounds to -10.5 and a peak of -9.99.
        track("drum", Track.Kind.PERCUSSIVE, 0, 0.51, -80);
        Session session = session().withStaging(new StagingTargets(-10, -10, -60));
        assertThat(propose(session, Aim.EACH_BY_KIND).list().getFirst().proposedDb())
                .isCloseTo(-10.6, within(1e-9));
    }

    @Test
    void a_tracks_own_reference_goes_before_the_sessions() {
        ChannelId id = track("bass", Track.Kind.SUSTAINED, -10, -8, -80);
        Session session = session()
                .withChannel(id, c -> c instanceof Track t ? t.withOwnReferenceDbfs(OptionalDouble.of(-22)) : c);
        assertThat(propose(session, Aim.EACH_BY_KIND).list().getFirst().averageDbfs())
                .isCloseTo(-22, within(0.05));
    }

    @Test
    void loudness_is_a_target_of_its_own_for_every_kind() {
        track("drum", Track.Kind.PERCUSSIVE, -30, -20, -80);
        TrimProposal proposal = only(new Aim(new Aim.Loudness(-27), false, Aim.Place.TRIM));
        assertThat(proposal.proposedDb()).as("measured at -31 LUFS").isCloseTo(4, within(1e-9));
        assertThat(proposal.reason()).isEqualTo(Reason.LOUDNESS);
    }

    @Test
    void together_the_first_reaches_its_target_and_the_balance_stays() {
        track("one", Track.Kind.SUSTAINED, -12, -3, -80);
        track("two", Track.Kind.SUSTAINED, -20, -9, -80);
        TrimProposals proposals = propose(session(), new Aim(new Aim.ByKind(), true, Aim.Place.TRIM));
        assertThat(proposals.list()).extracting(TrimProposal::changeDb).allSatisfy(change -> assertThat(change)
                .isCloseTo(-6, within(1e-9)));
    }

    @Test
    void together_trims_that_were_typed_to_a_hundredth_keep_their_difference() {
        ChannelId one = track("one", Track.Kind.SUSTAINED, -12.34, -3, -80);
        ChannelId two = track("two", Track.Kind.SUSTAINED, -20, -9, -80);
        Session session = session().withStrip(two, s -> s.withTrimDb(0.25));
        TrimProposals proposals = propose(session, new Aim(new Aim.ByKind(), true, Aim.Place.TRIM));
        assertThat(proposals.of(one).orElseThrow().changeDb())
                .as("whole steps, not past the target")
                .isCloseTo(-5.7, within(1e-9));
        assertThat(proposals.of(two).orElseThrow().proposedDb()).isCloseTo(-5.45, within(1e-9));
    }

    @Test
    void one_accepted_proposal_is_undone_by_the_name_of_its_channel() {
        ChannelId one = track("one", Track.Kind.SUSTAINED, -12, -3, -80);
        track("two", Track.Kind.SUSTAINED, -20, -9, -80);
        TrimProposals proposals = propose(session(), Aim.EACH_BY_KIND);
        assertThat(proposals.only(Set.of(one)).edit().name()).isEqualTo("Trim of one");
        assertThat(proposals.edit().name()).isEqualTo("Trim of 2 channels");
    }

    @Test
    void cues_and_silent_tracks_get_no_proposal() {
        track("click", Track.Kind.CUE, -30, -12, -80);
        double none = Double.NEGATIVE_INFINITY;
        track("rest", Track.Kind.SUSTAINED, none, none, none);
        assertThat(propose(session(), Aim.EACH_BY_KIND).isEmpty()).isTrue();
    }

    @Test
    void a_floor_that_comes_up_through_the_threshold_is_marked() {
        track("whistle", Track.Kind.SUSTAINED, -37, -31, -70);
        track("organ", Track.Kind.SUSTAINED, -20, -10, -30);
        TrimProposals proposals = propose(session(), Aim.EACH_BY_KIND);
        assertThat(proposals.list().getFirst().noiseFloorDbfs()).isCloseTo(-51, within(1e-9));
        assertThat(proposals.list())
                .extracting(TrimProposal::noisy)
                .as("what was above before is no noise that staging raised")
                .containsExactly(true, false);
    }

    @Test
    void what_the_trims_range_does_not_reach_stops_at_its_end() {
        track("whisper", Track.Kind.SUSTAINED, -90, -84, -100);
        TrimProposal proposal = only(Aim.EACH_BY_KIND);
        assertThat(proposal.proposedDb()).isEqualTo(48);
        assertThat(proposal.reason()).isEqualTo(Reason.RANGE);
    }

    @Test
    void accepted_proposals_are_one_edit_and_the_others_stay_as_they_are() {
        ChannelId one = track("one", Track.Kind.SUSTAINED, -12, -3, -80);
        ChannelId two = track("two", Track.Kind.SUSTAINED, -20, -9, -80);
        Session session = session();
        TrimProposals proposals = propose(session, Aim.EACH_BY_KIND);
        Session staged = proposals.only(Set.of(one)).edit().apply(session);
        assertThat(staged.channel(one).strip().trimDb()).isCloseTo(-6, within(1e-9));
        assertThat(staged.channel(two).strip().trimDb()).isZero();
        assertThat(proposals.without(Set.of(one)).list())
                .extracting(TrimProposal::channel)
                .containsExactly(two);
    }

    @Test
    void a_loudness_that_no_music_has_is_refused() {
        assertThatIllegalArgumentException()
                .isThrownBy(() -> new Aim.Loudness(6))
                .withMessageContaining("-70 to 0 LUFS");
        assertThatIllegalArgumentException().isThrownBy(() -> new Aim.Peak(0.1)).withMessageContaining("peakDbfs");
    }

    @Test
    void a_peak_is_a_target_of_its_own_for_every_kind_and_the_guard_holds_it_too() {
        track("fiddle", Track.Kind.SUSTAINED, -30, -15.5, -80);
        track("drum", Track.Kind.PERCUSSIVE, -30, -3, -80);
        assertThat(propose(session(), new Aim(new Aim.Peak(-12), false, Aim.Place.TRIM))
                        .list())
                .allSatisfy(p -> assertThat(p.peakDbfs()).isCloseTo(-12, within(1e-9)))
                .extracting(TrimProposal::reason)
                .containsOnly(Reason.PEAK);
        assertThat(propose(session(), new Aim(new Aim.Peak(0), false, Aim.Place.TRIM))
                        .list())
                .allSatisfy(p -> assertThat(p.peakDbfs()).isCloseTo(-6, within(1e-9)))
                .extracting(TrimProposal::reason)
                .containsOnly(Reason.GUARD);
    }

    @Test
    void to_a_peak_by_one_gain_the_loudest_reaches_it_and_the_balance_stays() {
        track("fiddle", Track.Kind.SUSTAINED, -30, -15.5, -80);
        track("drum", Track.Kind.PERCUSSIVE, -30, -9, -80);
        assertThat(propose(session(), new Aim(new Aim.Peak(-12), true, Aim.Place.TRIM))
                        .list())
                .extracting(TrimProposal::changeDb)
                .allSatisfy(change -> assertThat(change).isCloseTo(-3, within(1e-9)));
    }

    @Property(tries = 3_000)
    void no_proposal_ever_passes_the_guard(
            @ForAll @Size(min = 1, max = 6) List<@DoubleRange(min = -60, max = 0) Double> averages,
            @ForAll @DoubleRange(min = 0.5, max = 30) double crestDb,
            @ForAll @DoubleRange(min = -12, max = 0) double guardDbfs,
            @ForAll boolean together,
            @ForAll boolean toPeak) {
        channels.clear();
        levels.clear();
        for (int i = 0; i < averages.size(); i++) {
            track(
                    "t" + i,
                    i % 2 == 0 ? Track.Kind.SUSTAINED : Track.Kind.PERCUSSIVE,
                    averages.get(i),
                    averages.get(i) + crestDb,
                    -90);
        }
        Session session = session().withStaging(new StagingTargets(-10, guardDbfs, -60));
        Aim.Goal goal = toPeak ? new Aim.Peak(-1) : new Aim.ByKind();
        assertThat(propose(session, new Aim(goal, together, Aim.Place.TRIM)).list())
                .hasSameSizeAs(averages)
                .allMatch(p -> p.peakDbfs() <= guardDbfs + 0.0021);
    }
}
