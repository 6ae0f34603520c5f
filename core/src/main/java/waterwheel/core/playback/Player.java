package waterwheel.core.playback;

import java.util.Collections;
import java.util.Map;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.PlanRun;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.Team;
import waterwheel.core.errors.DeviceException;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * Plays a session. All methods may be called by any thread and return at once; positions are frames on the song's line.
 */
public final class Player implements AutoCloseable {
    /** Frames computed at a time: 5.3 ms at 48 kHz. */
    public static final int BLOCK = 256;

    private static final double CROSSFADE_SECONDS = 0.02;
    private static final double FADE_SECONDS = 0.005;
    private static final long NO_SEEK = -1;

    private final AudioPort port;
    private final Thread thread;
    private final Thread preparer;
    private final Team team = new Team(1);
    private final int crossfadeFrames;
    private final float fadeStep;
    private final float[] left = new float[BLOCK];
    private final float[] right = new float[BLOCK];
    private final AtomicReference<@Nullable Change> asked = new AtomicReference<>();
    private final AtomicReference<@Nullable Running> next = new AtomicReference<>();
    private volatile boolean wanted;
    private volatile boolean closed;
    private volatile long seekTo = NO_SEEK;
    private volatile long position;
    private volatile boolean sounding;

    private volatile Running current;

    // Belong to the playing thread.
    private @Nullable Running leaving;
    private int crossed;
    private float gate;

    /** What should be played instead. */
    private record Change(Session session, Media media) {}

    /** A plan with its run and meters. */
    private record Running(Plan plan, PlanRun run, LiveMeters meters) {
        /** How much further than what is heard the engine must be, because of the processors' latency. */
        int late() {
            return plan.latencies().get(plan.monitor());
        }
    }

    /**
     * Starts a player that stands at the song's beginning.
     *
     * @param media open for as long as the player is
     * @param port opened and closed by the player
     * @throws DeviceException if the port refuses
     */
    public Player(Session session, Media media, AudioPort port) throws DeviceException {
        this.port = port;
        crossfadeFrames = (int) (CROSSFADE_SECONDS * session.sampleRateHz());
        fadeStep = (float) (1 / (FADE_SECONDS * session.sampleRateHz()));
        current = prepare(session, media);
        port.open(session.sampleRateHz(), BLOCK);
        thread = Thread.ofPlatform()
                .daemon()
                .name("waterwheel-playback")
                .priority(Thread.MAX_PRIORITY)
                .start(this::play);
        preparer = Thread.ofPlatform()
                .daemon()
                .name("waterwheel-playback-preparing")
                .start(this::prepareChanges);
    }

    /** Java Sound where the machine has a device, the silent clock where it has none. */
    public static AudioPort bestPort(int sampleRateHz) {
        return JavaSoundPort.available(sampleRateHz) ? new JavaSoundPort() : new SilentPort();
    }

    private Running prepare(Session session, Media media) {
        Plan plan = PlanCompiler.compile(session);
        PlanRun run = PlanRun.ofAll(plan, media, team, BLOCK);
        LiveMeters meters = new LiveMeters(plan);
        meters.attach(session, run);
        return new Running(plan, run, meters);
    }

    /**
     * Plays the session as it has become, as soon as that is prepared; of several the last. Both run for 20 ms while the
     * sound moves from one to the other sample by sample, which is the same as moving every gain, and works for changes of
     * routing too.
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
            if (change == null) {
                LockSupport.park(this);
            } else {
                next.set(prepare(change.session(), change.media()));
                LockSupport.unpark(thread);
            }
        }
    }

    public void start() {
        wanted = true;
        LockSupport.unpark(thread);
    }

    /** Stops where it is, after a short fade. */
    public void stop() {
        wanted = false;
    }

    /** Goes to a frame; while playing, through a short fade. */
    public void seek(long frame) {
        seekTo = Math.max(0, frame);
        if (!wanted) {
            position = seekTo;
        }
        LockSupport.unpark(thread);
    }

    public boolean playing() {
        return wanted;
    }

    /** The frame that is played next. */
    public long position() {
        return position;
    }

    public String portName() {
        return port.name();
    }

    /** Whether nothing can be heard because there is no device. */
    public boolean silent() {
        return port.silent();
    }

    /** The loudest peak of every signal since the last call, one a plane, linear. For one caller. */
    public Map<SignalId, float[]> takePeaks() {
        return current.meters().take();
    }

    /** By the signal behind each insert: the most that it turned down since the last call, in dB. For one caller. */
    public Map<SignalId, Double> takeReductions() {
        return current.meters().takeReductions();
    }

    /** The meters of every channel as the session is now; another set after every change. */
    public Map<ChannelId, ChannelMeter> channelMeters() {
        return Collections.unmodifiableMap(current.meters().channels());
    }

    private void play() {
        while (!closed) {
            takeChanges();
            if (!wanted && !sounding) {
                LockSupport.parkNanos(50_000_000);
                continue;
            }
            block();
        }
    }

    private void takeChanges() {
        if (leaving == null) {
            Running changed = next.getAndSet(null);
            if (changed != null) {
                take(changed);
            }
        }
        if (gate == 0 && seekTo != NO_SEEK) {
            position = seekTo;
            seekTo = NO_SEEK;
        }
    }

    private void take(Running changed) {
        if (sounding) {
            leaving = current;
            crossed = 0;
        }
        changed.meters().adopt(current.meters());
        changed.run().adopt(current.run(), position + changed.late());
        current = changed;
    }

    private void block() {
        long at = position;
        Running now = current;
        int frames = (int) Math.max(0, Math.min(BLOCK, now.plan().lengthFrames() - at));
        if (frames == 0) {
            wanted = false;
            sounding = false;
            gate = 0;
            return;
        }
        now.run().process(at + now.late(), frames);
        float[][] mix = now.run().signal(now.run().plan().monitor());
        System.arraycopy(mix[0], 0, left, 0, frames);
        System.arraycopy(mix[1], 0, right, 0, frames);
        crossfade(at, frames);
        fade(frames);
        port.write(left, right, frames);
        position = at + frames;
        sounding = gate > 0 || wanted;
    }

    private void crossfade(long at, int frames) {
        Running old = leaving;
        if (old == null) {
            return;
        }
        old.run().process(at + old.late(), frames);
        float[][] before = old.run().signal(old.run().plan().monitor());
        for (int i = 0; i < frames; i++) {
            float part = Math.min(1, (crossed + i + 1f) / crossfadeFrames);
            left[i] = before[0][i] + part * (left[i] - before[0][i]);
            right[i] = before[1][i] + part * (right[i] - before[1][i]);
        }
        crossed += frames;
        if (crossed >= crossfadeFrames) {
            leaving = null;
        }
    }

    /** Opens or closes the gate sample by sample; it closes for a stop and for a jump. */
    private void fade(int frames) {
        boolean open = wanted && seekTo == NO_SEEK;
        float level = gate;
        for (int i = 0; i < frames; i++) {
            level = open ? Math.min(1, level + fadeStep) : Math.max(0, level - fadeStep);
            left[i] *= level;
            right[i] *= level;
        }
        gate = level;
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
