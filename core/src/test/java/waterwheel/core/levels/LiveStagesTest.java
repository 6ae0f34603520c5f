package waterwheel.core.levels;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalId;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.units.Decibels;
import waterwheel.core.work.Progress;

/** What the live bars show of a steady sound is what the whole song measures, at every stage that both know. */
class LiveStagesTest {
    private static final ChannelId ONE = Sessions.id("one");

    @Property(tries = 25)
    void live_stages_are_those_of_the_whole_song(
            @ForAll @DoubleRange(min = -20, max = 6) double clipDb,
            @ForAll @DoubleRange(min = -20, max = 6) double trimDb,
            @ForAll @DoubleRange(min = -20, max = 6) double faderDb,
            @ForAll @DoubleRange(min = -1, max = 1) double position,
            @ForAll boolean inverted)
            throws Exception {
        Path folder = Files.createTempDirectory("live");
        float[] steady = new float[4_800];
        Arrays.fill(steady, 0.25f);
        Session session = new Sessions(folder)
                .track("one", "main", steady)
                .build()
                .withChannel(ONE, c -> ((Track) c)
                        .withClips(List.of(((Track) c).clips().getFirst().withGainDb(clipDb))))
                .withStrip(ONE, s -> s.withTrimDb(trimDb)
                        .withFaderDb(faderDb)
                        .withPolarityInverted(inverted)
                        .withPlacement(s.placement().withPosition(position)))
                .withVcas(List.of(new Vca(Sessions.id("v"), "v", -2, false, List.of(ONE), List.of())));
        Plan plan = PlanCompiler.compile(session);
        Map<SignalId, float[]> peaks = new HashMap<>();
        for (int i = 0; i < plan.signals().size(); i++) {
            float[][] signal = new Renders(folder).signal(session, plan, i);
            float[] loudest = new float[signal.length];
            for (int p = 0; p < loudest.length; p++) {
                loudest[p] = Math.abs(signal[p][2_400]);
            }
            peaks.put(plan.signals().get(i).id(), loudest);
        }
        LiveStages live = LiveStages.of(session, session.channel(ONE), peaks);
        SessionLevels levels = SessionMeasurement.of(session, folder, Progress.NONE);
        ChannelLevels measured = levels.of(ONE).orElseThrow();
        for (Stage stage : List.of(Stage.CLIPS, Stage.TRIM, Stage.FADER, Stage.PLACEMENT, Stage.OUTPUT)) {
            assertThat(Decibels.ofFactor(live.at(stage)))
                    .as("%s", stage)
                    .isCloseTo(measured.at(stage).samplePeakDbfs(), within(1e-3));
        }
        assertThat(Decibels.ofFactor(LiveStages.afterTrim(session.channel(ONE), peaks)))
                .isCloseTo(measured.at(Stage.TRIM).samplePeakDbfs(), within(1e-3));
        assertThat(Decibels.ofFactor(LiveStages.ofMain(session, peaks)))
                .isCloseTo(levels.main().orElseThrow().samplePeakDbfs(), within(1e-3));
    }
}
