package waterwheel.desktop.model;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.SignalId;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.playback.ChannelMeter;
import waterwheel.core.playback.HeldMeters;
import waterwheel.core.playback.InputListener;
import waterwheel.core.playback.LivePeaks;
import waterwheel.core.playback.Player;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Rack;
import waterwheel.core.recording.RecordRun;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.sources.AudioSource;

/** Playing, position and the level now. It polls the player; the player never calls the interface. */
public final class Transport implements AutoCloseable {
    /** Takes the loudest peaks since the last frame. */
    public interface LiveListener {
        /**
         * Takes peaks.
         *
         * @param peaks of every signal, linear, one a plane
         * @param seconds since the last call
         */
        void live(LivePeaks peaks, double seconds);
    }

    /**
     * The interface that is open.
     *
     * @param roundTripFrames how much later something comes in than it went out, as far as the interface can tell
     */
    public record Interface(String name, int inputs, int outputs, int roundTripFrames) {}

    private final Path folder;
    /** All that were opened, the present one last: what plays may still be on an earlier one. */
    private final List<Media> media = new ArrayList<>();

    private List<AudioSource> sources;
    private volatile Player player;
    private @Nullable ChannelId byHand;
    private boolean toldGone;
    private Rack rack;
    private final Messages messages;
    private final int sampleRateHz;
    private final ReadOnlyBooleanWrapper playing = new ReadOnlyBooleanWrapper();
    private final ReadOnlyObjectWrapper<Interface> ports = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyBooleanWrapper howled = new ReadOnlyBooleanWrapper();
    private boolean recording;
    private final ReadOnlyDoubleWrapper seconds = new ReadOnlyDoubleWrapper();
    private final HeldMeters meters = new HeldMeters();
    private final Loads loads = new Loads();
    private final List<LiveListener> listeners = new ArrayList<>();
    private final List<LiveListener> watchers = new ArrayList<>();
    private @Nullable Session waiting;
    private Map<SignalId, Double> reductions = Map.of();
    private long lastNanos;
    private final Frames frames = new Frames(this::poll);

    Transport(Session session, Path folder, Messages messages) {
        this.folder = folder;
        sources = session.sources();
        media.add(Media.open(session, folder));
        sampleRateHz = session.sampleRateHz();
        rack = session.rack();
        this.messages = messages;
        player = open(session, messages);
        ports.set(opened());
        meters.use(session, "");
        frames.moving();
    }

    private Player open(Session session, Messages messages) {
        return Players.open(session, media.getLast(), messages);
    }

    private Interface opened() {
        return new Interface(player.portName(), player.inputs(), player.outputs(), player.roundTripFrames());
    }

    /** Makes the sounds of instruments, before the song is started and waits for them. */
    public void prepare() {
        player.prepare();
    }

    /** The interface that is open now. */
    public ReadOnlyObjectProperty<Interface> portsProperty() {
        return ports.getReadOnlyProperty();
    }

    private void poll(long now) {
        double passed = lastNanos == 0 ? 0.016 : Math.max(0, now - lastNanos) * 1e-9;
        lastNanos = now;
        if (waiting != null) {
            // At most one new plan a frame, however fast a fader is dragged.
            if (!waiting.sources().equals(sources)) {
                sources = waiting.sources();
                Media opened = Media.open(waiting, folder);
                opened.keepResponses(media.getLast());
                media.add(opened);
            }
            if (RackPort.same(rack, waiting.rack())) {
                player.use(waiting, media.getLast());
            } else {
                reopen(waiting);
            }
            rack = waiting.rack();
            waiting = null;
        }
        if (player.portGone() && !toldGone) {
            toldGone = true;
            messages.tell("The " + player.portName().toLowerCase(Locale.ROOT)
                    + " went away. The song runs on silently; choose the interface again in Outboard when it is back.");
        }
        if (player.howled() && !howled.get()) {
            messages.tell(
                    "An input stayed at full scale, as when it hears itself: inputs are not heard any more. Turn it"
                            + " down, then listen again in Outboard.");
        }
        howled.set(player.howled());
        playing.set(player.playing());
        seconds.set((double) player.position() / sampleRateHz);
        if (player.playing()) {
            meters.take(player.channelMeters());
        }
        loads.poll(player, passed);
        LivePeaks peaks = player.takePeaks();
        // What is played by hand or comes in sounds while the song stands.
        if (player.playing() || peaks.peaks().values().stream().anyMatch(Transport::sounds)) {
            frames.moving();
        }
        reductions = player.takeReductions();
        if (frames.areMoving()) {
            listeners.forEach(listener -> listener.live(peaks, passed));
        }
        watchers.forEach(listener -> listener.live(peaks, passed));
    }

    private static boolean sounds(float[] planes) {
        for (float peak : planes) {
            if (peak > 0) {
                return true;
            }
        }
        return false;
    }

    /** Goes on by another interface, or by one with other units in it, from the same place. */
    private void reopen(Session session) {
        boolean playing = player.playing();
        long place = player.position();
        player.close();
        player = open(session, messages);
        player.playByHand(byHand);
        player.prepare();
        ports.set(opened());
        toldGone = false;
        player.seek(place);
        // What was being recorded came in by the other interface.
        if (playing && !recording) {
            player.start();
        }
    }

    /**
     * Plays the session as it has become.
     *
     * @param reason what changed, as the undo menu says it
     */
    void use(Session session, String reason) {
        waiting = session;
        frames.moving();
        meters.use(session, reason);
    }

    /** By how much an insert turned down since the last frame, in dB; 0 while nothing plays. */
    public double reductionDb(ChannelId channel, SlotId slot) {
        return reductions.getOrDefault(new SignalId(channel, SignalId.Point.INSERT, slot.value()), 0.0);
    }

    /** What the channels' meters show while playing, and what they held. */
    public HeldMeters meters() {
        return meters;
    }

    /** Has a track's instrument played by hand, also while the song stands; null for none. */
    void playByHand(@Nullable ChannelId track) {
        byHand = track;
        frames.moving();
        player.playByHand(track);
    }

    /** What plays that instrument by hand. Any thread. */
    Optional<LiveKeys> keys() {
        return player.keys();
    }

    /** The frame that is being played now. Any thread. */
    long heardFrame() {
        return player.heardFrame();
    }

    /** What everything takes of a block's time. */
    public Loads loads() {
        return loads;
    }

    /** Has the level now told once a frame while something sounds, and until it has fallen back. */
    public void listen(LiveListener listener) {
        listeners.add(listener);
    }

    /** The same, and four times a second while all is silent: of what comes in and feeds no track nothing else tells. */
    public void watch(LiveListener listener) {
        watchers.add(listener);
    }

    public ReadOnlyBooleanProperty playingProperty() {
        return playing.getReadOnlyProperty();
    }

    /** The place in the song in seconds. */
    public ReadOnlyDoubleProperty secondsProperty() {
        return seconds.getReadOnlyProperty();
    }

    public void playOrStop() {
        frames.moving();
        if (player.playing()) {
            player.stop();
        } else {
            player.start();
        }
    }

    public void stop() {
        player.stop();
    }

    /** Plays the song and has what comes in taken, from where it stands or runs. */
    void record(InputListener listener, Set<ChannelId> tracks) {
        recording = true;
        player.record(listener, tracks);
        player.start();
        frames.moving();
        playing.set(true);
    }

    void recordNothing() {
        recording = false;
        player.recordNothing();
    }

    /** How much later something comes in than the song that it is played to goes out, in frames. */
    int lateFrames(Session session) {
        return RecordRun.lateFrames(session, player);
    }

    /** A meter for each of the interface's inputs, true while one of them feeds a track. */
    public List<ChannelMeter> inputMeters() {
        return player.inputMeters();
    }

    /** Begins the inputs' meters anew. */
    public void resetInputMeters() {
        player.resetInputMeters();
    }

    /** Whether inputs are not heard because one of them howled. */
    public ReadOnlyBooleanProperty howledProperty() {
        return howled.getReadOnlyProperty();
    }

    /** Listens to inputs again after a howl. */
    public void listenAgain() {
        player.listenAgain();
    }

    /** Goes to a place in the song, in seconds. */
    public void seek(double place) {
        player.seek(Math.round(place * sampleRateHz));
        frames.moving();
        seconds.set(Math.max(0, place));
    }

    /** Where the sound goes, in words. */
    public String portInWords() {
        return rack.driver() == Driver.SIMULATED
                ? "Simulated interface: its units hear the song, nobody else does"
                : player.silent() ? "No sound device: playing on a silent clock" : "Sound: " + player.portName();
    }

    /** The same for where there is little room. */
    public String portInFewWords() {
        return rack.driver() == Driver.SYSTEM && player.silent() ? "No sound device: silent clock" : player.portName();
    }

    @Override
    public void close() {
        frames.close();
        listeners.clear();
        watchers.clear();
        player.close();
        media.forEach(Media::close);
    }
}
