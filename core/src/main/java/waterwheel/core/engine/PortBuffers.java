package waterwheel.core.engine;

import java.util.Set;
import org.jspecify.annotations.Nullable;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Listen;

/**
 * What comes in by an interface and goes out by it, a block at a time, {@code [port - 1][0 .. frames)}, full scale ±1.0;
 * and what tells whether tracks that inputs feed are listened to. Belongs to the thread that runs the plan.
 */
public final class PortBuffers {
    /** Of a run that knows no interface. */
    public static final PortBuffers NONE = new PortBuffers(0, 0, 0);

    private final float[][] in;
    private final float[][] out;
    private boolean rolling = true;
    private boolean shut;
    private Set<ChannelId> recorded = Set.of();
    private @Nullable ChannelId player;
    private @Nullable LiveKeys keys;

    public PortBuffers(int inputs, int outputs, int maxFrames) {
        in = new float[inputs][maxFrames];
        out = new float[outputs][maxFrames];
    }

    /** What came in; filled before a block is computed. */
    public float[][] in() {
        return in;
    }

    /** What goes out; to be filled after a block is computed. */
    public float[][] out() {
        return out;
    }

    /**
     * Tells how the next blocks are heard.
     *
     * @param rolling whether the song runs
     * @param shut whether no input is to be heard, whatever its track says
     * @param recorded the tracks that are being recorded
     */
    public void listening(boolean rolling, boolean shut, Set<ChannelId> recorded) {
        this.rolling = rolling;
        this.shut = shut;
        this.recorded = recorded;
    }

    /** Tells which track's instrument is played by hand in the next blocks; null for none. */
    public void playing(@Nullable ChannelId track, @Nullable LiveKeys live) {
        player = track;
        keys = live;
    }

    /** What plays a track's instrument by hand; null where nobody does. */
    @Nullable
    LiveKeys keys(ChannelId track) {
        return track.equals(player) ? keys : null;
    }

    boolean hears(ChannelId track, Listen listen) {
        return !shut && listen.hears(playsBack(track));
    }

    /** Whether a track's recordings are heard. */
    boolean playsBack(ChannelId track) {
        return rolling && !recorded.contains(track);
    }
}
