package waterwheel.core.ports;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_FLOAT;
import static java.lang.foreign.ValueLayout.JAVA_INT;

import java.lang.foreign.Arena;
import java.lang.foreign.FunctionDescriptor;
import java.lang.foreign.Linker;
import java.lang.foreign.MemorySegment;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.MethodType;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.DeviceException;

/**
 * All ports of an audio interface, through a JACK server that runs. The server calls with one period after another; two
 * rings lead to it and from it. Between them there are always the same number of frames, so that what is written comes
 * back the same number of frames later: what the engine is late with is silent, and dropped when it comes. After a pause
 * both rings begin anew.
 */
@SuppressWarnings("restricted") // C calls back
public final class JackPort implements AudioPort {
    private static final int MOST_PORTS = 64;
    private static final int RING = 1 << 15;
    /** Longer than that between two blocks is a pause. */
    private static final long PAUSE_NANOS = 200_000_000;
    /** A server that does not call for so long is gone. */
    private static final long GONE_NANOS = 2_000_000_000;

    private final List<MemorySegment> inputPorts = new ArrayList<>();
    private final List<MemorySegment> outputPorts = new ArrayList<>();
    private @Nullable JackLibrary library;
    private MemorySegment client = MemorySegment.NULL;
    private Arena arena = Arena.ofShared();
    private PortRing incoming = new PortRing(0, 1);
    private PortRing outgoing = new PortRing(0, 1);
    private PacedClock clock = new PacedClock(48_000);
    private int held;
    private long lastBlock;

    /** Asked for by the engine, done by the server's thread between two periods. */
    private volatile boolean again;

    private volatile boolean gone;
    /** Frames that the server went without; the engine's next ones are dropped instead. */
    private final AtomicInteger owed = new AtomicInteger();

    /** Whether a server runs. */
    public static boolean available() {
        return JackLibrary.loaded()
                .map(library -> {
                    MemorySegment client = library.open("waterwheel-asks");
                    if (client.address() == 0) {
                        return false;
                    }
                    library.close(client);
                    return true;
                })
                .orElse(false);
    }

    @Override
    public String name() {
        return "Sound server";
    }

    @Override
    public boolean silent() {
        return gone;
    }

    @Override
    public boolean gone() {
        return gone;
    }

    @Override
    public int inputs() {
        return inputPorts.size();
    }

    @Override
    public int outputs() {
        return outputPorts.size();
    }

    /** What the rings hold; what the interface adds the server does not tell. */
    @Override
    public int roundTripFrames() {
        return held;
    }

    /** All that is held is on its way out; what comes in is taken as it comes. */
    @Override
    public int heardLaterFrames() {
        return held;
    }

    @Override
    public void open(int sampleRateHz, int maxFrames) throws DeviceException {
        close();
        JackLibrary found = JackLibrary.loaded()
                .orElseThrow(() -> new DeviceException(
                        "This system has no sound server.", "Install one, or choose another interface in Outboard."));
        client = found.open("waterwheel");
        if (client.address() == 0) {
            throw new DeviceException(
                    "No sound server is running.", "Start it, or choose another interface in Outboard.");
        }
        library = found;
        gone = false;
        clock = new PacedClock(sampleRateHz);
        int rate = found.sampleRate(client);
        if (rate != sampleRateHz) {
            close();
            throw new DeviceException(
                    "The sound server runs at " + rate + " Hz, and the session at " + sampleRateHz + " Hz.",
                    "Start the server at the session's rate.");
        }
        List<String> sources = found.physical(client, JackLibrary.PORT_IS_OUTPUT);
        List<String> sinks = found.physical(client, JackLibrary.PORT_IS_INPUT);
        register(found, sources.size(), sinks.size());
        int period = found.period(client);
        // As much as the server takes at once, and as much as the engine makes at once.
        held = 2 * Math.max(period, maxFrames);
        incoming = new PortRing(inputPorts.size(), RING);
        outgoing = new PortRing(outputPorts.size(), RING);
        outgoing.silence(held);
        arena = Arena.ofShared();
        found.setProcess(client, upcall("process", MethodType.methodType(int.class, int.class, MemorySegment.class)));
        found.onShutdown(client, upcall("shutdown", MethodType.methodType(void.class, MemorySegment.class)));
        if (!found.activate(client)) {
            close();
            throw new DeviceException(
                    "The sound server does not take another program.", "End one of its others, or start it anew.");
        }
        connect(found, sources, sinks);
        lastBlock = System.nanoTime();
    }

    private void register(JackLibrary found, int inputs, int outputs) {
        for (int i = 1; i <= Math.min(inputs, MOST_PORTS); i++) {
            inputPorts.add(found.register(client, "input_" + i, JackLibrary.PORT_IS_INPUT));
        }
        for (int i = 1; i <= Math.min(outputs, MOST_PORTS); i++) {
            outputPorts.add(found.register(client, "output_" + i, JackLibrary.PORT_IS_OUTPUT));
        }
    }

    private MemorySegment upcall(String method, MethodType type) {
        try {
            FunctionDescriptor shape = type.returnType() == void.class
                    ? FunctionDescriptor.ofVoid(ADDRESS)
                    : FunctionDescriptor.of(JAVA_INT, JAVA_INT, ADDRESS);
            return Linker.nativeLinker().upcallStub(MethodHandles.lookup().bind(this, method, type), shape, arena);
        } catch (ReflectiveOperationException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Each of our ports with the interface's own of the same number. */
    private void connect(JackLibrary found, List<String> sources, List<String> sinks) {
        for (int i = 0; i < inputPorts.size(); i++) {
            found.connect(client, sources.get(i), found.name(inputPorts.get(i)));
        }
        for (int i = 0; i < outputPorts.size(); i++) {
            found.connect(client, found.name(outputPorts.get(i)), sinks.get(i));
        }
    }

    /**
     * Connects an output of ours with an input of ours, as by a cable.
     *
     * @return false where the server refuses
     */
    boolean patch(int output, int input) {
        JackLibrary found = library;
        return found != null
                && found.connect(
                        client, found.name(outputPorts.get(output - 1)), found.name(inputPorts.get(input - 1)));
    }

    /** Called by the server's thread for each period. */
    @SuppressWarnings("unused") // called through its name
    private int process(int frames, MemorySegment nothing) {
        JackLibrary found = library;
        if (found == null) {
            return 0;
        }
        if (again) {
            incoming.silence(0);
            outgoing.silence(held);
            owed.set(0);
            again = false;
        }
        int there = Math.min(frames, outgoing.available());
        for (int p = 0; p < outputPorts.size(); p++) {
            MemorySegment buffer = found.buffer(outputPorts.get(p), frames);
            for (int i = 0; i < frames; i++) {
                buffer.setAtIndex(JAVA_FLOAT, i, i < there ? outgoing.get(p, i) : 0);
            }
        }
        outgoing.letGo(there);
        if (there < frames) {
            owed.addAndGet(frames - there);
        }
        int taken = Math.min(frames, incoming.room());
        for (int p = 0; p < inputPorts.size(); p++) {
            MemorySegment buffer = found.buffer(inputPorts.get(p), frames);
            for (int i = 0; i < taken; i++) {
                incoming.put(p, i, buffer.getAtIndex(JAVA_FLOAT, i));
            }
        }
        incoming.pass(taken);
        return 0;
    }

    /** Called by the server when it ends. */
    @SuppressWarnings("unused") // called through its name
    private void shutdown(MemorySegment nothing) {
        gone = true;
    }

    @Override
    public void read(float[][] in, int frames) {
        long now = System.nanoTime();
        if (now - lastBlock > PAUSE_NANOS && !gone) {
            again = true;
        }
        long waited = now + GONE_NANOS;
        while (!gone && (again || incoming.available() < frames)) {
            LockSupport.parkNanos(200_000);
            if (System.nanoTime() > waited) {
                gone = true;
            }
            if (Thread.currentThread().isInterrupted()) {
                return;
            }
        }
        for (int p = 0; p < Math.min(in.length, inputPorts.size()); p++) {
            for (int i = 0; i < frames; i++) {
                in[p][i] = gone ? 0 : incoming.get(p, i);
            }
        }
        if (!gone) {
            incoming.letGo(frames);
        }
    }

    @Override
    public void write(float[][] out, int frames) {
        lastBlock = System.nanoTime();
        if (gone) {
            clock.pass(frames);
            return;
        }
        // What comes too late is not played later: everything would be late by it from then on.
        int dropped = Math.min(frames, owed.get());
        if (dropped > 0) {
            owed.addAndGet(-dropped);
        }
        int count = Math.min(frames - dropped, outgoing.room());
        for (int p = 0; p < Math.min(out.length, outputPorts.size()); p++) {
            for (int i = 0; i < count; i++) {
                outgoing.put(p, i, Math.clamp(out[p][dropped + i], -1f, 1f));
            }
        }
        outgoing.pass(count);
    }

    @Override
    public void close() {
        JackLibrary found = library;
        if (found != null && client.address() != 0) {
            if (!gone) {
                found.deactivate(client);
            }
            found.close(client);
            client = MemorySegment.NULL;
            library = null;
            arena.close();
        }
        inputPorts.clear();
        outputPorts.clear();
    }
}
