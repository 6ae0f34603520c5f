package waterwheel.core.ports;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_INT;
import static java.lang.foreign.ValueLayout.JAVA_LONG;

import java.lang.foreign.Arena;
import java.lang.foreign.FunctionDescriptor;
import java.lang.foreign.Linker;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.SymbolLookup;
import java.lang.invoke.MethodHandle;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The functions of the client library of JACK, a server that gives programs the ports of an audio interface, as its
 * header {@code jack.h} declares them. What a library throws cannot happen in C; it would be a fault of ours.
 */
@SuppressWarnings("restricted") // C is called
final class JackLibrary {
    static final int PORT_IS_INPUT = 1;
    static final int PORT_IS_OUTPUT = 2;
    static final int PORT_IS_PHYSICAL = 4;
    private static final int NO_START_SERVER = 1;
    private static final String AUDIO = "32 bit float mono audio";
    private static final Optional<JackLibrary> LOADED = load();

    private final MethodHandle clientOpen;
    private final MethodHandle clientClose;
    private final MethodHandle sampleRate;
    private final MethodHandle bufferSize;
    private final MethodHandle setProcess;
    private final MethodHandle onShutdown;
    private final MethodHandle portRegister;
    private final MethodHandle portBuffer;
    private final MethodHandle portName;
    private final MethodHandle activate;
    private final MethodHandle deactivate;
    private final MethodHandle connect;
    private final MethodHandle getPorts;
    private final MethodHandle free;

    private JackLibrary(SymbolLookup library) {
        Linker linker = Linker.nativeLinker();
        Linker.Option variadic = Linker.Option.firstVariadicArg(3);
        clientOpen = linker.downcallHandle(
                find(library, "jack_client_open"),
                FunctionDescriptor.of(ADDRESS, ADDRESS, JAVA_INT, ADDRESS),
                variadic);
        clientClose = handle(linker, library, "jack_client_close", FunctionDescriptor.of(JAVA_INT, ADDRESS));
        sampleRate = handle(linker, library, "jack_get_sample_rate", FunctionDescriptor.of(JAVA_INT, ADDRESS));
        bufferSize = handle(linker, library, "jack_get_buffer_size", FunctionDescriptor.of(JAVA_INT, ADDRESS));
        setProcess = handle(
                linker,
                library,
                "jack_set_process_callback",
                FunctionDescriptor.of(JAVA_INT, ADDRESS, ADDRESS, ADDRESS));
        onShutdown = handle(linker, library, "jack_on_shutdown", FunctionDescriptor.ofVoid(ADDRESS, ADDRESS, ADDRESS));
        portRegister = handle(
                linker,
                library,
                "jack_port_register",
                FunctionDescriptor.of(ADDRESS, ADDRESS, ADDRESS, ADDRESS, JAVA_LONG, JAVA_LONG));
        portBuffer = handle(linker, library, "jack_port_get_buffer", FunctionDescriptor.of(ADDRESS, ADDRESS, JAVA_INT));
        portName = handle(linker, library, "jack_port_name", FunctionDescriptor.of(ADDRESS, ADDRESS));
        activate = handle(linker, library, "jack_activate", FunctionDescriptor.of(JAVA_INT, ADDRESS));
        deactivate = handle(linker, library, "jack_deactivate", FunctionDescriptor.of(JAVA_INT, ADDRESS));
        connect = handle(linker, library, "jack_connect", FunctionDescriptor.of(JAVA_INT, ADDRESS, ADDRESS, ADDRESS));
        getPorts = handle(
                linker,
                library,
                "jack_get_ports",
                FunctionDescriptor.of(ADDRESS, ADDRESS, ADDRESS, ADDRESS, JAVA_LONG));
        free = handle(linker, library, "jack_free", FunctionDescriptor.ofVoid(ADDRESS));
    }

    /** The library, where the system has it. */
    static Optional<JackLibrary> loaded() {
        return LOADED;
    }

    private static Optional<JackLibrary> load() {
        for (String name : new String[] {"libjack.so.0", "libjack.0.dylib", "libjack64.dll"}) {
            try {
                SymbolLookup library = SymbolLookup.libraryLookup(name, Arena.global());
                return Optional.of(new JackLibrary(library));
            } catch (IllegalArgumentException e) {
                // Not this system's name for it, or it is not installed.
            }
        }
        return Optional.empty();
    }

    private static MemorySegment find(SymbolLookup library, String name) {
        return library.find(name)
                .orElseThrow(() -> new IllegalArgumentException("name: " + name + " (expected: in the library)"));
    }

    private static MethodHandle handle(Linker linker, SymbolLookup library, String name, FunctionDescriptor shape) {
        return linker.downcallHandle(find(library, name), shape);
    }

    /** A client of a running server; {@link MemorySegment#NULL} where there is none. */
    MemorySegment open(String name) {
        try (Arena arena = Arena.ofConfined()) {
            return (MemorySegment)
                    clientOpen.invokeExact(arena.allocateFrom(name), NO_START_SERVER, arena.allocate(JAVA_INT));
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    void close(MemorySegment client) {
        check(clientClose, client);
    }

    int sampleRate(MemorySegment client) {
        return check(sampleRate, client);
    }

    /** How many frames the server gives at a time. */
    int period(MemorySegment client) {
        return check(bufferSize, client);
    }

    boolean activate(MemorySegment client) {
        return check(activate, client) == 0;
    }

    void deactivate(MemorySegment client) {
        check(deactivate, client);
    }

    private static int check(MethodHandle function, MemorySegment client) {
        try {
            return (int) function.invokeExact(client);
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** @param process {@code int (int frames, void*)}, called by a thread of the server's */
    void setProcess(MemorySegment client, MemorySegment process) {
        try {
            int done = (int) setProcess.invokeExact(client, process, MemorySegment.NULL);
            if (done != 0) {
                throw new IllegalStateException("process: refused (expected: a client that is not active)");
            }
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** @param shutdown {@code void (void*)}, called when the server ends */
    void onShutdown(MemorySegment client, MemorySegment shutdown) {
        try {
            onShutdown.invokeExact(client, shutdown, MemorySegment.NULL);
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** A port of the client's own. */
    MemorySegment register(MemorySegment client, String name, int flags) {
        try (Arena arena = Arena.ofConfined()) {
            return (MemorySegment) portRegister.invokeExact(
                    client, arena.allocateFrom(name), arena.allocateFrom(AUDIO), (long) flags, 0L);
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** A port's samples of this period; only within a call of the process function. */
    MemorySegment buffer(MemorySegment port, int frames) {
        try {
            MemorySegment bare = (MemorySegment) portBuffer.invokeExact(port, frames);
            return bare.reinterpret((long) frames * Float.BYTES);
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** The whole name of a port, client and all. */
    String name(MemorySegment port) {
        try {
            return text((MemorySegment) portName.invokeExact(port));
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** Connects two ports by their names; false where the server refuses. */
    boolean connect(MemorySegment client, String from, String to) {
        try (Arena arena = Arena.ofConfined()) {
            return (int) connect.invokeExact(client, arena.allocateFrom(from), arena.allocateFrom(to)) == 0;
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    /** The names of the interface's own ports, in its order. */
    List<String> physical(MemorySegment client, int flags) {
        try (Arena arena = Arena.ofConfined()) {
            MemorySegment list = (MemorySegment) getPorts.invokeExact(
                    client, MemorySegment.NULL, arena.allocateFrom("audio"), (long) (PORT_IS_PHYSICAL | flags));
            List<String> names = new ArrayList<>();
            if (list.address() != 0) {
                MemorySegment read = list.reinterpret(Long.MAX_VALUE);
                for (long at = 0; read.get(ADDRESS, at).address() != 0; at += ADDRESS.byteSize()) {
                    names.add(text(read.get(ADDRESS, at)));
                }
                free.invokeExact(list);
            }
            return names;
        } catch (Throwable e) {
            throw impossible(e);
        }
    }

    private static String text(MemorySegment address) {
        return address.reinterpret(Long.MAX_VALUE).getString(0);
    }

    private static IllegalStateException impossible(Throwable e) {
        return new IllegalStateException("A function of the sound server's library failed.", e);
    }
}
