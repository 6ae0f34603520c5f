package waterwheel.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;

/** Entry of the bench: each prints one line of JSON. */
public final class Bench {
    private Bench() {}

    /** What a bench does with its arguments; returns what it prints. */
    private interface Work {
        String run(Words words) throws Exception;
    }

    /**
     * One of the benches.
     *
     * @param arguments as the usage names them
     */
    private record One(String name, String arguments, Work work) {
        String usage() {
            return ("bench " + name + " " + arguments).strip();
        }
    }

    private static final List<One> ALL = List.of(
            new One("render", "[TRACKS] [SECONDS]", w -> RenderBench.run(w.number(0, 32), w.number(1, 60), scratch())),
            new One(
                    "fullmix",
                    "[TRACKS] [SECONDS]",
                    w -> FullMixBench.run(w.number(0, 32), w.number(1, 60), scratch())),
            new One(
                    "rides",
                    "[TRACKS] [SECONDS]",
                    w -> FullMixBench.runRides(w.number(0, 32), w.number(1, 60), scratch())),
            new One("freeze", "[TRACKS] [SECONDS]", w -> FreezeBench.run(w.number(0, 32), w.number(1, 60), scratch())),
            new One("load", "[TRACKS] [SECONDS]", w -> LoadBench.run(w.number(0, 32), w.number(1, 20), scratch())),
            new One("voices", "[VOICES]", w -> VoicesBench.run(w.number(0, 64))),
            new One("print", "[SECONDS]", w -> PrintBench.run(w.number(0, 60), scratch())),
            new One("measure", "[SECONDS]", w -> MeasureBench.run(w.number(0, 600), scratch())),
            new One("open", "[TRACKS] [SECONDS]", w -> OpenBench.run(w.number(0, 100), w.number(1, 300), scratch())),
            new One(
                    "order",
                    "[SONGS] [SECONDS] [KNOWN]",
                    w -> OrderBench.run(w.number(0, 30), w.number(1, 210), w.number(2, 309), scratch())),
            new One("play", "[DEMO]", w -> PlayBench.run(w.folder())),
            new One("loops", "[SECONDS]", w -> LoopsBench.run(w.number(0, 60), scratch())),
            new One("fader", "[DEMO]", w -> FaderBench.run(w.folder())),
            new One("scale", "", w -> ScaleBench.run(scratch())),
            new One("window", "[TRACKS]", w -> WindowBench.run(w.number(0, 500), scratch())));

    /** What follows a bench's name. */
    private record Words(List<String> all) {
        int number(int index, int otherwise) {
            return all.size() > index ? Integer.parseInt(all.get(index)) : otherwise;
        }

        Path folder() throws IOException {
            return all.isEmpty() ? scratch() : Path.of(all.getFirst());
        }
    }

    /** Runs one bench; the rest of the arguments is its own. */
    public static void main(String[] args) throws Exception {
        String name = args.length == 0 ? "" : args[0];
        String[] rest = Arrays.copyOfRange(args, Math.min(1, args.length), args.length);
        if (name.equals("jmh")) {
            org.openjdk.jmh.Main.main(rest);
            return;
        }
        for (One one : ALL) {
            if (one.name().equals(name)) {
                System.out.println(one.work().run(new Words(List.of(rest))));
                return;
            }
        }
        ALL.forEach(one -> System.err.println(one.usage()));
        System.err.println("bench jmh [OPTIONS]");
        System.exit(2);
    }

    private static Path scratch() throws IOException {
        return Files.createTempDirectory("waterwheel-bench");
    }
}
