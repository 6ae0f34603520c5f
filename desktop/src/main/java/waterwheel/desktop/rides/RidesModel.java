package waterwheel.desktop.rides;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import javafx.application.Platform;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.core.staging.RideProposal;
import waterwheel.desktop.model.SessionModel;

/** What the view of rides shows: which stretch of the song, which lanes, what is chosen of them, and the levels. */
final class RidesModel {
    private static final long SHORTEST_SECONDS_PART = 20;

    private final SessionModel session;
    private final ReadOnlyObjectWrapper<TimeSpan> span = new ReadOnlyObjectWrapper<>(new TimeSpan(0, 1));
    private final ReadOnlyObjectWrapper<List<ControlId>> lanes = new ReadOnlyObjectWrapper<>(List.of());
    private final ObjectProperty<@Nullable CurveRange> range = new SimpleObjectProperty<>();
    private final ObjectProperty<Boolean> drawing = new SimpleObjectProperty<>(false);
    private final ObjectProperty<Boolean> snapping = new SimpleObjectProperty<>(true);
    private final ReadOnlyObjectWrapper<@Nullable Proposed> proposed = new ReadOnlyObjectWrapper<>();
    /** Levels by where they were asked for, of the session as it is. */
    private final Map<Place, LevelSeries> levels = new HashMap<>();

    private final Set<Place> asked = new HashSet<>();
    private final ReadOnlyObjectWrapper<Integer> levelsCame = new ReadOnlyObjectWrapper<>(0);
    private boolean followsSong = true;

    /** Where a level is measured. */
    record Place(ChannelId channel, Stage stage, String part) {}

    /** Rides that are proposed for a session; they wait until they are accepted, or the session changes. */
    record Proposed(RideProposal proposal, Session asked) {
        /** Whether they would change a control. */
        boolean rides(ControlId id) {
            return !Controls.ride(asked, id).equals(Controls.ride(proposal.after(), id));
        }
    }

    RidesModel(SessionModel session) {
        this.session = session;
        showAll();
    }

    SessionModel session() {
        return session;
    }

    ReadOnlyObjectProperty<TimeSpan> spanProperty() {
        return span.getReadOnlyProperty();
    }

    TimeSpan span() {
        return span.get();
    }

    ReadOnlyObjectProperty<List<ControlId>> lanesProperty() {
        return lanes.getReadOnlyProperty();
    }

    /** The stretch that is chosen over all lanes; null for none. */
    ObjectProperty<@Nullable CurveRange> rangeProperty() {
        return range;
    }

    /** Whether dragging draws a curve by hand. */
    ObjectProperty<Boolean> drawingProperty() {
        return drawing;
    }

    /** Whether what is chosen snaps to sections. */
    ObjectProperty<Boolean> snappingProperty() {
        return snapping;
    }

    /** Counts up when levels came. */
    ReadOnlyObjectProperty<Integer> levelsCameProperty() {
        return levelsCame.getReadOnlyProperty();
    }

    /** What is proposed; null for nothing. */
    ReadOnlyObjectProperty<@Nullable Proposed> proposedProperty() {
        return proposed.getReadOnlyProperty();
    }

    /** Shows rides that are proposed for the session as it is, in place of those that were; null for none. */
    void propose(@Nullable RideProposal proposal) {
        proposed.set(proposal == null ? null : new Proposed(proposal, session.session()));
        refresh();
    }

    void acceptProposal() {
        Proposed now = proposed.get();
        if (now != null) {
            proposed.set(null);
            session.edit(now.proposal().edit());
        }
    }

    ChannelId channel() {
        return session.selectedChannel().id();
    }

    /** Takes over what the session has become. */
    void refresh() {
        Session now = session.session();
        Proposed waiting = proposed.get();
        if (waiting != null && !waiting.asked().equals(now)) {
            waiting = null;
            proposed.set(null);
        }
        List<ControlId> all = new ArrayList<>();
        Session shown = waiting == null ? now : waiting.proposal().after();
        Controls.ridden(shown, channel()).stream()
                .filter(id -> Controls.has(now, id))
                .forEach(all::add);
        for (Vca vca : above()) {
            all.addAll(Controls.ridden(now, vca.id()));
        }
        if (!all.equals(lanes.get())) {
            lanes.set(List.copyOf(all));
        }
        if (followsSong) {
            showAll();
        }
    }

    /** Forgets levels that may be another's now. */
    void forgetLevels() {
        asked.clear();
        levels.clear();
    }

    /** The VCAs that move the selected channel. */
    List<Vca> above() {
        return above(session.session());
    }

    List<Vca> above(Session shown) {
        return Faders.of(shown).above(channel());
    }

    /** The level that a lane's control causes; null until it is known. */
    @Nullable
    LevelSeries level(Place place) {
        LevelSeries known = levels.get(place);
        if (known == null && asked.add(place)) {
            Session now = session.session();
            var unused = session.questions()
                    .stage(place.channel(), place.stage(), place.part())
                    .thenAccept(series -> Platform.runLater(() -> {
                        if (session.session().equals(now)) {
                            levels.put(place, series);
                            levelsCame.set(levelsCame.get() + 1);
                        }
                    }));
        }
        return known;
    }

    /** Whether all levels that were asked for came. */
    boolean complete() {
        return levels.keySet().containsAll(asked);
    }

    /** Where the level that a control causes is measured: of a send and a VCA behind the selected channel's fader. */
    Place caused(ControlId id) {
        Channel channel = session.selectedChannel();
        return switch (id.part()) {
            case ControlId.OfInsert(var slot) -> {
                boolean runs = channel.strip().activeInserts().stream().anyMatch(i -> i.id().equals(slot));
                yield runs
                        ? new Place(channel.id(), Stage.INSERT, slot.value())
                        : new Place(channel.id(), Stage.FADER, "");
            }
            case ControlId.OfSend _ -> new Place(channel.id(), Stage.FADER, "");
            case ControlId.OfStrip() ->
                new Place(
                        channel.id(),
                        switch (id.key()) {
                            case "trimDb" -> Stage.TRIM;
                            case "position", "width" -> Stage.PLACEMENT;
                            case "muted" -> Stage.OUTPUT;
                            default -> Stage.FADER;
                        },
                        "");
        };
    }

    /** Whether a lane's line is not all of what counts: VCAs move the fader too. */
    boolean hasResult(ControlId id) {
        return id.owner().equals(channel())
                && id.equals(ControlId.ofStrip(channel(), Strip.FADER.key()))
                && !above().isEmpty();
    }

    /** The controls of the selected channel, and of the VCAs above it, that are not ridden yet. */
    List<ControlId> addable() {
        Session now = session.session();
        List<ControlId> all = new ArrayList<>(Controls.of(now, channel()));
        above().forEach(vca -> all.addAll(Controls.of(now, vca.id())));
        all.removeAll(Controls.ridden(now));
        return all;
    }

    // Time

    private long songFrames() {
        return Math.max(1, session.session().lengthFrames());
    }

    void showAll() {
        followsSong = true;
        span.set(new TimeSpan(0, songFrames()));
    }

    /** Shows a longer or shorter stretch around a frame, which stays where it is. */
    void zoom(double factor, long around) {
        TimeSpan now = span.get();
        long shortest = session.session().sampleRateHz() / SHORTEST_SECONDS_PART;
        long length = Math.clamp(Math.round(now.length() / factor), shortest, songFrames());
        long from = around - Math.round(now.place(around) * length);
        followsSong = length == songFrames();
        span.set(new TimeSpan(Math.clamp(from, 0, songFrames() - length), length));
    }

    /** Moves what is shown by a part of it. */
    void scroll(double part) {
        TimeSpan now = span.get();
        long from = now.from() + Math.round(part * now.length());
        span.set(new TimeSpan(Math.clamp(from, 0, songFrames() - now.length()), now.length()));
    }

    /** Chooses the stretch of the section at a frame; none where there is no section. */
    void chooseSectionAt(long frame) {
        range.set(session.session().sections().stream()
                .filter(section -> section.startFrames() <= frame && frame < section.endFrames())
                .findFirst()
                .map(section -> new CurveRange(section.startFrames(), section.endFrames()))
                .orElse(null));
    }

    /** A frame, or the section's edge that lies within a distance, if snapping is on. */
    long snapped(long frame, long within) {
        if (!snapping.get()) {
            return frame;
        }
        return session.session().sections().stream()
                .flatMapToLong(section -> LongStream.of(section.startFrames(), section.endFrames()))
                .filter(edge -> Math.abs(edge - frame) <= within)
                .findFirst()
                .orElse(frame);
    }

    long playhead() {
        return session.playhead();
    }
}
