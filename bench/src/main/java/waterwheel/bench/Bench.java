package waterwheel.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;

/** Entry of the bench: {@code render}, {@code fullmix}, {@code rides}, {@code freeze}, {@code load}, {@code voices}, {@code print}, {@code measure}, {@code open}, {@code play}, {@code loops}, {@code fader}, {@code scale} or {@code jmh}. */
public final class Bench {
    private Bench() {}

    /** Runs one bench; the rest of the arguments is its own. */
    public static void main(String[] args) throws Exception {
        String[] rest = args.length == 0 ? args : Arrays.copyOfRange(args, 1, args.length);
        switch (args.length == 0 ? "" : args[0]) {
            case "render" -> System.out.println(RenderBench.run(number(rest, 0, 32), number(rest, 1, 60), scratch()));
            case "measure" -> System.out.println(MeasureBench.run(number(rest, 0, 600), scratch()));
            case "fullmix" -> System.out.println(FullMixBench.run(number(rest, 0, 32), number(rest, 1, 60), scratch()));
            case "rides" ->
                System.out.println(FullMixBench.runRides(number(rest, 0, 32), number(rest, 1, 60), scratch()));
            case "freeze" -> System.out.println(FreezeBench.run(number(rest, 0, 32), number(rest, 1, 60), scratch()));
            case "load" -> System.out.println(LoadBench.run(number(rest, 0, 32), number(rest, 1, 20), scratch()));
            case "voices" -> System.out.println(VoicesBench.run(number(rest, 0, 64)));
            case "print" -> System.out.println(PrintBench.run(number(rest, 0, 60), scratch()));
            case "open" -> System.out.println(OpenBench.run(number(rest, 0, 100), number(rest, 1, 300), scratch()));
            case "play" -> System.out.println(PlayBench.run(rest.length > 0 ? Path.of(rest[0]) : scratch()));
            case "loops" -> System.out.println(LoopsBench.run(number(rest, 0, 60), scratch()));
            case "fader" -> System.out.println(FaderBench.run(rest.length > 0 ? Path.of(rest[0]) : scratch()));
            case "order" ->
                System.out.println(
                        OrderBench.run(number(rest, 0, 30), number(rest, 1, 210), number(rest, 2, 309), scratch()));
            case "scale" -> System.out.println(ScaleBench.run(scratch()));
            case "jmh" -> org.openjdk.jmh.Main.main(rest);
            default -> {
                System.err.println(
                        "bench render [TRACKS] [SECONDS] | bench fullmix [TRACKS] [SECONDS] | bench rides [TRACKS]"
                            + " [SECONDS] | bench freeze [TRACKS] [SECONDS] | bench load [TRACKS] [SECONDS] | bench"
                            + " measure [SECONDS] | bench open [TRACKS] [SECONDS] | bench play  [DEMO] | bench loops"
                            + " [SECONDS] | bench fader [DEMO] | bench scale | bench jmh [OPTIONS]");
                System.exit(2);
            }
        }
    }

    private static int number(String[] args, int index, int otherwise) {
        return args.length > index ? Integer.parseInt(args[index]) : otherwise;
    }

    private static Path scratch() throws java.io.IOException {
        return Files.createTempDirectory("waterwheel-bench");
    }
}
