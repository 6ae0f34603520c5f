package waterwheel.desktop.model;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.load.Load;
import waterwheel.core.load.LoadRun;
import waterwheel.core.load.Saving;
import waterwheel.core.playback.Player;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Progress;

/** What everything takes of a block's time, as it was last seen: while playing, or measured unheard. */
public final class Loads {
    private static final double SECONDS_BETWEEN = 0.5;
    private static final int MEASURED_SECONDS = 10;

    private final ReadOnlyObjectWrapper<@Nullable Load> load = new ReadOnlyObjectWrapper<>();
    /** What channels took that were frozen since. */
    private final Map<ChannelId, Double> before = new HashMap<>();

    private double waited;

    Loads() {}

    /** The load as it was last seen; null where none was. */
    public ReadOnlyObjectProperty<@Nullable Load> loadProperty() {
        return load.getReadOnlyProperty();
    }

    /** Reads the player's load now and then. */
    void poll(Player player, double passed) {
        waited += passed;
        if (waited < SECONDS_BETWEEN || !player.playing()) {
            return;
        }
        waited = 0;
        Load now = player.load();
        if (!now.empty()) {
            load.set(now);
        }
    }

    /** Runs ten seconds of the song from a place, or its last ten, unheard and at once. Any thread. */
    public static Load measured(SessionModel model, Session session, long from, Progress progress) {
        try (Media media = Media.open(session, model.folder())) {
            long length = session.lengthFrames();
            long seconds = (long) MEASURED_SECONDS * session.sampleRateHz();
            long begin = Math.clamp(from, 0, Math.max(0, length - seconds));
            return LoadRun.run(
                    session,
                    media,
                    Freezes.playable(session, media),
                    begin,
                    Math.min(length, begin + seconds),
                    progress);
        }
    }

    /** Shows a load that was measured unheard. */
    public void show(Load measured) {
        if (!measured.empty()) {
            load.set(measured);
        }
    }

    /** The share of a block's time that freezing would save; empty where that is not known. */
    public OptionalDouble saving(Session session, List<FreezeRun.Wanted> wanted) {
        Load known = load.get();
        return known == null ? OptionalDouble.empty() : Saving.of(known, session, wanted);
    }

    /** Remembers what channels take that are being frozen. */
    public void freezing(Session session, List<FreezeRun.Wanted> wanted) {
        for (FreezeRun.Wanted one : wanted) {
            saving(session, List.of(one)).ifPresent(saved -> before.put(one.channel(), saved));
        }
    }

    /** The share of a block's time that a channel's freeze saves; empty where it was not known before. */
    public OptionalDouble saved(Channel channel) {
        Double took = before.get(channel.id());
        Load known = load.get();
        if (took == null || known == null || channel.strip().freeze().isEmpty()) {
            return OptionalDouble.empty();
        }
        return OptionalDouble.of(Math.max(0, took - known.frozen(channel.id())));
    }
}
