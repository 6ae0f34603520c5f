package waterwheel.desktop.stems;

import javafx.scene.control.ListCell;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;

/** A channel by its name, and whether it is a bus. */
final class ChannelName extends ListCell<Channel> {
    @Override
    protected void updateItem(@Nullable Channel channel, boolean empty) {
        super.updateItem(channel, empty);
        setText(channel == null || empty ? "" : channel.name() + (channel instanceof Bus ? "  (bus)" : ""));
    }
}
