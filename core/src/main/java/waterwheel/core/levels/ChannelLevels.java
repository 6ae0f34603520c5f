package waterwheel.core.levels;

import java.util.List;
import java.util.Optional;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;

/**
 * The whole song's level at every stage of one channel.
 *
 * @param stages in signal order
 * @param sides left and right behind the fader, each by itself, of a stereo channel that a VCA moves; else empty
 */
public record ChannelLevels(ChannelId channel, List<StageLevel> stages, List<Figures> sides) {
    public ChannelLevels {
        stages = List.copyOf(stages);
        sides = List.copyOf(sides);
    }

    /**
     * The figures at a stage.
     *
     * @throws IllegalArgumentException if the channel has no such stage
     */
    public Figures at(Stage stage) {
        return stages.stream()
                .filter(s -> s.stage() == stage)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("stage: " + stage + " (expected: one of the channel)"))
                .figures();
    }

    /** The figures at one of an insert's stages; empty where it has no such stage. */
    public Optional<Figures> at(Stage stage, SlotId slot) {
        return stages.stream()
                .filter(one -> one.stage() == stage && one.part().equals(slot.value()))
                .map(StageLevel::figures)
                .findFirst();
    }

    /** The figures after an insert; empty where it is bypassed. */
    public Optional<Figures> after(SlotId slot) {
        return around(slot).map(Around::after);
    }

    /** The figures on both sides of an insert. */
    public record Around(Figures before, Figures after) {}

    /** The figures before and after an insert; empty where it is bypassed. */
    public Optional<Around> around(SlotId slot) {
        for (int i = 1; i < stages.size(); i++) {
            StageLevel stage = stages.get(i);
            if (stage.stage() == Stage.INSERT && stage.part().equals(slot.value())) {
                int before = i - 1;
                // What a hardware slot sends and gets back lies inside it.
                while (stages.get(before).part().equals(slot.value())) {
                    before--;
                }
                return Optional.of(new Around(stages.get(before).figures(), stage.figures()));
            }
        }
        return Optional.empty();
    }

    /** What the trim gets: a track's clips, a bus's input. */
    public Figures beforeTrim() {
        return stages.get(stages.getFirst().stage() == Stage.SOURCE ? 1 : 0).figures();
    }

    /** The channel's first stage: a track's source, a bus's input. */
    public Figures first() {
        return stages.getFirst().figures();
    }
}
