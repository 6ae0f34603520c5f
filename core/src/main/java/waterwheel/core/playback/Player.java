package waterwheel.core.playback;

import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PortBuffers;
import waterwheel.core.engine.SignalId;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.instruments.LiveKeys;
import waterwheel.core.load.Load;
import waterwheel.core.playback.Preparation.Order;
import waterwheel.core.playback.Preparation.Playing;
import waterwheel.core.ports.AudioPort;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.work.Team;

/**
 * Plays a session. All methods may be called by any thread and return at once; positions are frames on the song's line.
 */
public final class Player implements AutoCloseable {
    private static final long NO_SEEK = -1;
    /** While the song stands, time goes on from here: behind the end of whatever a processor holds up. */
    private static final long STANDING = 1L << 40;

    private final AudioPort port;
    private final Thread thread;
    private final Thread preparer;
    private final Team team = new Team(1);
    /** Frames computed at a time. */
    private final int block;

    private final PortBuffers buffers;
    private final LiveInputs inputs;

    private final AtomicReference<@Nullable Change> asked = new AtomicReference<>();
    private final AtomicReference<@Nullable Order> ordered = new AtomicReference<>();
    private volatile boolean wanted;
    private volatile boolean closed;
    /** The place that was asked for last and is not taken yet. Any thread sets it, the playing thread takes it. */
    private final AtomicLong seekTo = new AtomicLong(NO_SEEK);
    /** Written by the playing thread alone. */
    private volatile long position;

    private volatile boolean sounding;

    /** Whether all that the song needs has been prepared once; it does not begin before. */
    private volatile boolean ready;

    private volatile Playing current;
    /** What is heard while the song stands; null where no input feeds a track. */
    private volatile @Nullable Playing standing;

    private volatile @Nullable Recorded recorded;
    private final PlayedByHand byHand = new PlayedByHand();
    /** When the block that is heard next was begun, by {@link System#nanoTime}. */
    private volatile long begunNanos;

    /** Whether listening was turned off because an input howled. */
    private volatile boolean howled;

    /** Whether the song stands elsewhere than what stands was prepared for. */
    private final AtomicBoolean moved = new AtomicBoolean();

    /** Whether the sounds of instruments are wanted. */
    private final AtomicBoolean soundsWanted = new AtomicBoolean();

    private final Preparation preparation;

    // Belong to the preparing thread.

    /** What was asked for last. */
    private Change last;
    /** Whether all of a session was prepared, instruments with it. */
    private boolean whole;

    // Belong to the playing thread.

    private final Crossing crossing;
    private final Gate gate;
    /** Of what is heard while the song stands. */
    private final Gate standingGate;
    /** For how many frames the song has stood. */
    private long stood;
    /** How many frames the engine still runs unheard, until what processors and loops hold up arrives. */
    private int lead;

    /** Who takes what comes in, and for which tracks. */
    private record Recorded(InputListener listener, Set<ChannelId> tracks) {}

    /** What should be played instead. */
    private record Change(Session session, Media media) {}

    /**
     * Starts a player that stands at the song's beginning. The sounds of instruments are made when they are wanted first.
     *
     * @param media open for as long as the player is
     * @param port opened and closed by the player
     * @throws DeviceException if the port refuses
     */
    public Player(Session session, Media media, AudioPort port) throws DeviceException {
        this.port = port;
        block = session.rack().blockFrames();
        gate = new Gate(block, session.sampleRateHz());
        standingGate = new Gate(block, session.sampleRateHz());
        port.open(session.sampleRateHz(), block);
        buffers = new PortBuffers(port.inputs(), port.outputs(), block);
        inputs = new LiveInputs(port.inputs(), session.sampleRateHz());
        crossing = new Crossing(port.outputs(), block, session.sampleRateHz());
        preparation = new Preparation(port, team, buffers, block);
        last = new Change(session, media);
        // The sounds of instruments may take seconds to make, for which nobody waits but the song.
        Session atOnce = Unplayed.of(session);
        whole = atOnce.equals(session);
        ready = whole;
        Order first = preparation.order(atOnce, media, 0, false);
        current = first.playing();
        standing = first.standing() == null ? null : first.standing().playing();
        soundsWanted.set(standing != null);
        preparer = Thread.ofPlatform()
                .daemon()
                .name("waterwheel-playback-preparing")
                .start(this::prepareChanges);
        thread = Thread.ofPlatform()
                .daemon()
                .name("waterwheel-playback")
                .priority(Thread.MAX_PRIORITY)
                .start(this::play);
    }

    /**
     * Plays the session as it has become, as soon as that is prepared; of several the last. Where only values changed
     * (faders, knobs, mutes, placements), the running plan moves to them within 20 ms. Where its shape did, such as by
     * routing, both run for 20 ms while the sound moves from one to the other sample by sample.
     *
     * @param media the session's files; both these and the ones before stay open for as long as the player is
     */
    public void use(Session session, Media media) {
        asked.set(new Change(session, media));
        LockSupport.unpark(preparer);
    }

    /** Preparing takes milliseconds, which neither the caller nor the playing thread has. */
    private void prepareChanges() {
        while (!closed) {
            Change change = asked.getAndSet(null);
            boolean elsewhere = moved.getAndSet(false);
            boolean sounds = soundsWanted.getAndSet(false) && !whole;
            if (change != null) {
                last = change;
            }
            if (change != null || sounds || (elsewhere && (standing != null || byHand.any()))) {
                whole = true;
                boolean hand = byHand.prepare(last.session(), last.media());
                ordered.set(preparation.order(last.session(), last.media(), position(), hand));
                LockSupport.unpark(thread);
            } else {
                LockSupport.park(this);
            }
        }
    }

    /** Has a track's instrument played by hand from now on, also while the song stands; null for none. */
    public void playByHand(@Nullable ChannelId track) {
        byHand.choose(track);
        moved.set(true);
        LockSupport.unpark(preparer);
    }

    /** What plays the chosen track's instrument by hand; empty where there is none, or it is not ready yet. */
    public Optional<LiveKeys> keys() {
        return byHand.keys();
    }

    /**
     * The frame that is heard now, as far as the clock tells within a block and the port what it holds: whoever plays
     * along plays to this one.
     */
    public long heardFrame() {
        if (!sounding) {
            return position();
        }
        long passed = (System.nanoTime() - begunNanos) * current.plan().sampleRateHz() / 1_000_000_000L;
        return Math.max(0, position() + Math.clamp(passed, 0, block) - port.heardLaterFrames());
    }

    /** Makes the sounds of instruments now, so that the song does not wait for them when it is started. */
    public void prepare() {
        soundsWanted.set(true);
        LockSupport.unpark(preparer);
    }

    public void start() {
        wanted = true;
        prepare();
        LockSupport.unpark(thread);
    }

    /** Stops where it is, after a short fade. */
    public void stop() {
        wanted = false;
    }

    /** Goes to a frame; while playing, through a short fade. */
    public void seek(long frame) {
        seekTo.set(Math.max(0, frame));
        LockSupport.unpark(thread);
    }

    public boolean playing() {
        return wanted;
    }

    /** Whether what is played now is made of these files: what was asked for has been taken. */
    public boolean plays(Media media) {
        return current.running().media() == media;
    }

    /**
     * Has what comes in taken from now on, while the song runs; it then runs on behind its end. The tracks do not play
     * back meanwhile.
     */
    public void record(InputListener listener, Set<ChannelId> tracks) {
        recorded = new Recorded(listener, Set.copyOf(tracks));
    }

    /** Has what comes in taken no more. What was being taken is whole once the playing thread has gone on. */
    public void recordNothing() {
        recorded = null;
    }

    /** A meter for each of the interface's inputs, as long as anything of it is used. */
    public List<ChannelMeter> inputMeters() {
        return inputs.meters();
    }

    /** Begins the inputs' meters anew. */
    public void resetInputMeters() {
        inputs.reset();
    }

    /** Whether listening was turned off because an input stayed at full scale. */
    public boolean howled() {
        return howled;
    }

    /** Listens again after a howl. */
    public void listenAgain() {
        howled = false;
    }

    /** How many frames after it went out by a cable something comes in, as far as the interface can tell. */
    public int roundTripFrames() {
        return port.roundTripFrames();
    }

    /** The frame that is played next. */
    public long position() {
        long asked = seekTo.get();
        return asked == NO_SEEK ? position : asked;
    }

    /** How many inputs the interface has. */
    public int inputs() {
        return port.inputs();
    }

    /** How many outputs the interface has. */
    public int outputs() {
        return port.outputs();
    }

    public String portName() {
        return port.name();
    }

    /** Whether the device went away; the song goes on in silence. */
    public boolean portGone() {
        return port.gone();
    }

    /** Whether nothing can be heard because there is no device. */
    public boolean silent() {
        return port.silent();
    }

    /** The loudest peak of every signal since the last call. For one caller. */
    public LivePeaks takePeaks() {
        Playing now = heard();
        return new LivePeaks(now.plan(), now.running().meters().take());
    }

    private Playing heard() {
        Playing stands = standing;
        return stands == null || sounding ? current : stands;
    }

    /** What everything takes of a block's time, as of the last seconds. */
    public Load load() {
        return heard().running().load().read();
    }

    /** By the signal behind each insert: the most that it turned down since the last call, in dB. For one caller. */
    public Map<SignalId, Double> takeReductions() {
        return heard().running().meters().takeReductions();
    }

    /** The meters of every channel as the session is now; another set after every change. */
    public Map<ChannelId, ChannelMeter> channelMeters() {
        return Collections.unmodifiableMap(current.meters().byChannel());
    }

    /** Whether a plan that began to be played still plays, whatever values it has come to since. */
    boolean plays(Plan shape) {
        return current.running().shape() == shape;
    }

    /** The plan that is played, with the values that it has now. */
    Plan plan() {
        return current.plan();
    }

    private void play() {
        while (!closed) {
            takeChanges();
            // Where preparing failed, what there is plays.
            if (!ready && preparer.isAlive()) {
                LockSupport.parkNanos(50_000_000);
                continue;
            }
            Playing stands = standing;
            if (!sounding && stands != null && (!wanted || standingGate.open())) {
                stand(stands);
                continue;
            }
            if (!wanted && !sounding) {
                // Whoever has anything to play wakes it.
                LockSupport.park(this);
                continue;
            }
            if (!sounding) {
                lead = current.late();
                sounding = true;
            }
            Recorded takes = recorded;
            buffers.listening(true, howled, takes == null ? Set.of() : takes.tracks());
            if (lead > 0) {
                approach();
            } else {
                playBlock();
            }
        }
    }

    private void takeChanges() {
        Order order = ordered.get();
        // While two runs cross, a third must wait; values need not.
        boolean another = order != null && order.playing().running() != current.running();
        if (order != null && (!crossing.underWay() || !another) && ordered.compareAndSet(order, null)) {
            take(order, another);
            ready = true;
        }
        long asked = seekTo.get();
        if (!gate.open() && asked != NO_SEEK) {
            position = asked;
            lead = current.late();
            // One that was asked for since is taken the next time.
            seekTo.compareAndSet(asked, NO_SEEK);
            standElsewhere();
        }
    }

    /** Has what is heard while the song stands prepared for where that is now. */
    private void standElsewhere() {
        if (standing != null && !wanted) {
            moved.set(true);
            LockSupport.unpark(preparer);
        }
    }

    private void take(Order order, boolean another) {
        Playing changed = order.playing();
        if (another) {
            if (sounding) {
                crossing.leave(current);
            }
            changed.running().meters().adopt(current.running().meters());
            changed.running().load().adopt(current.running().load());
            lead = Math.min(lead, changed.late());
            changed.run().adopt(current.run(), position + changed.late() - lead);
        }
        order.move();
        current = changed;
        Order stands = order.standing();
        if (stands != null) {
            stands.move();
        }
        standing = stands == null ? null : stands.playing();
    }

    /** What comes in goes its way while the song stands. */
    private void stand(Playing stands) {
        port.read(buffers.in(), block);
        long begun = begin(stands, block);
        hearInputs(position, block);
        buffers.listening(false, howled, Set.of());
        stands.run().process(STANDING + stood, block);
        stood += block;
        stands.patch().collect(stands.run(), buffers.out(), block);
        standingGate.pass(buffers.out(), block, !wanted);
        byHand.end(block);
        stands.running().load().take(stands.run(), System.nanoTime() - begun, block, position);
        port.write(buffers.out(), block);
    }

    /** Begins a block: its clock, and what was done by hand since the last one; returns the time. */
    private long begin(Playing now, int frames) {
        long begun = System.nanoTime();
        begunNanos = begun;
        byHand.begin(buffers);
        now.run().due(begun + now.running().load().nanos(frames));
        return begun;
    }

    private void hearInputs(long at, int frames) {
        if (inputs.hear(buffers.in(), at, frames) && standing != null) {
            howled = true;
        }
    }

    /**
     * Runs the engine up to where the song's position is heard: what is held up must be on its way. With loops the
     * interface runs along, and nothing is heard but by the units.
     */
    private void approach() {
        Playing now = current;
        int frames = Math.min(block, lead);
        boolean loops = now.patch().loops();
        if (loops) {
            port.read(buffers.in(), frames);
        }
        now.run().process(position + now.late() - lead, frames);
        if (loops) {
            now.patch().collectSends(now.run(), buffers.out(), frames);
            port.write(buffers.out(), frames);
        }
        lead -= frames;
        if (!wanted) {
            fallSilent();
        }
    }

    private void fallSilent() {
        sounding = false;
        crossing.drop();
        standElsewhere();
    }

    private void playBlock() {
        long at = position;
        Playing now = current;
        Recorded takes = recorded;
        int frames = takes != null ? block : Math.clamp(now.plan().lengthFrames() - at, 0, block);
        if (frames == 0) {
            gate.shut();
            // At the end of the song, unless it is to go on elsewhere.
            wanted = wanted && seekTo.get() != NO_SEEK;
            fallSilent();
            return;
        }
        port.read(buffers.in(), frames);
        long begun = begin(now, frames);
        hearInputs(at, frames);
        if (takes != null) {
            takes.listener().hear(buffers.in(), frames, at);
        }
        now.run().process(at + now.late(), frames);
        now.patch().collect(now.run(), buffers.out(), frames);
        crossing.into(buffers.out(), at, frames);
        gate.pass(buffers.out(), frames, wanted && seekTo.get() == NO_SEEK);
        byHand.end(frames);
        now.running().load().take(now.run(), System.nanoTime() - begun, frames, at);
        port.write(buffers.out(), frames);
        position = at + frames;
        if (!gate.open() && !wanted) {
            fallSilent();
        }
    }

    @Override
    public void close() {
        closed = true;
        wanted = false;
        LockSupport.unpark(thread);
        LockSupport.unpark(preparer);
        try {
            thread.join();
            preparer.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        port.close();
        team.close();
    }
}
