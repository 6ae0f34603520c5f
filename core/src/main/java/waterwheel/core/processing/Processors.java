package waterwheel.core.processing;

import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import waterwheel.core.inserts.ProcessorKind;

/** All kinds of processors, in the order of the menus. */
public final class Processors {
    private static final List<Descriptor> ALL = List.of(
            new Equaliser(),
            new Compressor(),
            new Multiband(),
            new Gate(),
            new Limiter(),
            new TransientShaper(),
            new Saturator(),
            new StereoTool(),
            new Delay(),
            new Reverb(),
            new Convolution(),
            new HardwareLoop(),
            new TestTone());

    private static final Map<ProcessorKind, Descriptor> BY_KIND =
            ALL.stream().collect(Collectors.toMap(Descriptor::kind, Function.identity()));

    private Processors() {}

    public static List<ProcessorKind> kinds() {
        return ALL.stream().map(Descriptor::kind).toList();
    }

    /** The descriptor of a kind. */
    public static Descriptor of(ProcessorKind kind) {
        Descriptor found = BY_KIND.get(kind);
        if (found == null) {
            throw new IllegalArgumentException("kind: " + kind + " (expected: one of the list)");
        }
        return found;
    }
}
