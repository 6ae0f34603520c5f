package waterwheel.desktop.model;

import waterwheel.core.engine.Media;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.playback.Player;
import waterwheel.core.ports.SilentPort;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;

/** Players on the interface that a session asks for, or on a silent clock where that refuses. */
public final class Players {
    private Players() {}

    /** Opens a player; what the interface refuses is told. */
    public static Player open(Session session, Media media, Messages messages) {
        try {
            return new Player(session, media, RackPort.of(session.rack(), session.sampleRateHz()));
        } catch (DeviceException e) {
            messages.tell(e.getMessage() + " Until then the song runs on a silent clock.");
            try {
                return new Player(session, media, new SilentPort());
            } catch (DeviceException impossible) {
                throw new IllegalStateException("A clock never refuses.", impossible);
            }
        }
    }
}
