package waterwheel.desktop.path;

import waterwheel.core.inserts.Insert;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.model.SessionModel;

/**
 * Which channel's path is on the screen. The rows stay while one channel after the other is chosen, so none of them may
 * remember a channel: whatever a row does, it asks here whose it is.
 */
final class ShownChannel {
    private final SessionModel model;
    private ChannelId id;

    ShownChannel(SessionModel model) {
        this.model = model;
        id = model.selectedChannel().id();
    }

    ChannelId id() {
        return id;
    }

    /** The channel as the session has it now. */
    Channel channel() {
        return model.session().channel(id);
    }

    /** Whether the session still has it. */
    boolean isThere() {
        return model.session().find(id).isPresent();
    }

    boolean isMain() {
        return id.equals(model.session().mainId());
    }

    /** The insert at a place in the channel's way, counted from 0. */
    Insert insert(int place) {
        return channel().strip().inserts().get(place);
    }

    void show(ChannelId now) {
        id = now;
    }
}
