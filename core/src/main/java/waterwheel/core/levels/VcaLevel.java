package waterwheel.core.levels;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;

/**
 * What a VCA's meter shows. A VCA carries no sound; its level is that of its loudest member behind the fader, by sample
 * peak: left and right where all members are stereo, else one level.
 *
 * @param loudest the member
 * @param sides one level, or left and right
 */
public record VcaLevel(ChannelId loudest, List<Figures> sides) {
    public VcaLevel {
        sides = List.copyOf(sides);
    }

    /**
     * Returns a VCA's level.
     *
     * @param levels what is known of channels; empty while pending
     * @return empty while a member's level is pending, and where the VCA moves nothing
     */
    public static Optional<VcaLevel> of(Session session, Vca vca, Function<ChannelId, Optional<ChannelLevels>> levels) {
        Set<ChannelId> moved = Faders.of(session).movedBy(vca);
        List<ChannelLevels> known = new ArrayList<>();
        for (ChannelId member : moved) {
            levels.apply(member).ifPresent(known::add);
        }
        if (known.size() < moved.size()) {
            return Optional.empty();
        }
        boolean stereo = moved.stream()
                .flatMap(member -> session.find(member).stream())
                .mapToInt(Channel::planes)
                .allMatch(planes -> planes == 2);
        return known.stream()
                .max(Comparator.comparingDouble(member -> member.at(Stage.FADER).samplePeakDbfs()))
                .map(member ->
                        new VcaLevel(member.channel(), stereo ? member.sides() : List.of(member.at(Stage.FADER))))
                // Levels of an earlier session do not know the sides of a channel that has just become a member.
                .filter(level -> !level.sides().isEmpty());
    }
}
