package waterwheel.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import waterwheel.core.json.Json;

/**
 * Runs work several times and reports the median of the later runs as one JSON line; the earlier ones let the JIT compile.
 */
final class Measured {
    /** What is measured. */
    interface Work {
        void run() throws Exception;
    }

    private static final int RUNS = 9;

    private final String name;
    private final double audioSeconds;
    private final Work work;
    private final List<Run> warmUps = new ArrayList<>();
    private final List<Run> runs = new ArrayList<>();

    /** How long it took on the wall's clock, and of all processors. */
    private record Run(double wallSeconds, double cpuSeconds) {}

    private Measured(String name, double audioSeconds, Work work) {
        this.name = name;
        this.audioSeconds = audioSeconds;
        this.work = work;
    }

    static String run(String name, double audioSeconds, int warmUps, Work work) throws Exception {
        Measured measured = new Measured(name, audioSeconds, work);
        measured.warmUp(warmUps);
        for (int i = 0; i < RUNS; i++) {
            measured.runs.add(measured.once());
        }
        return Json.compact(measured.report());
    }

    /**
     * Runs two kinds of work in turns, because a machine is not as fast at all times: a line for each, and one that says
     * how many times the processor time of the first the second takes (the median over the turns).
     */
    static String byTurns(double audioSeconds, int warmUps, String first, Work one, String second, Work other)
            throws Exception {
        Measured before = new Measured(first, audioSeconds, one);
        Measured after = new Measured(second, audioSeconds, other);
        before.warmUp(warmUps);
        after.warmUp(warmUps);
        double[] times = new double[RUNS];
        for (int i = 0; i < RUNS; i++) {
            before.runs.add(before.once());
            after.runs.add(after.once());
            times[i] = after.runs.getLast().cpuSeconds / before.runs.getLast().cpuSeconds;
        }
        Arrays.sort(times);
        ObjectNode node = Json.object();
        node.put("bench", second + " against " + first);
        node.set("timesTheCost", Json.figure(times[RUNS / 2], 2));
        node.set("least", Json.figure(times[0], 2));
        node.set("most", Json.figure(times[RUNS - 1], 2));
        return Json.compact(before.report()) + "\n" + Json.compact(after.report()) + "\n" + Json.compact(node);
    }

    private void warmUp(int times) throws Exception {
        for (int i = 0; i < times; i++) {
            warmUps.add(once());
        }
    }

    private Run once() throws Exception {
        OperatingSystemMXBean system = (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();
        long cpu = system.getProcessCpuTime();
        long wall = System.nanoTime();
        work.run();
        double wallSeconds = (System.nanoTime() - wall) * 1e-9;
        return new Run(wallSeconds, (system.getProcessCpuTime() - cpu) * 1e-9);
    }

    private ObjectNode report() throws IOException {
        List<Run> sorted = runs.stream()
                .sorted(Comparator.comparingDouble(Run::wallSeconds))
                .toList();
        Run median = sorted.get(RUNS / 2);
        ObjectNode node = Json.object();
        node.put("bench", name);
        node.put("cores", Runtime.getRuntime().availableProcessors());
        node.set("audioSeconds", Json.figure(audioSeconds, 1));
        node.set("wallSeconds", Json.figure(median.wallSeconds));
        node.set("cpuSeconds", Json.figure(median.cpuSeconds));
        node.set("timesRealTime", timesRealTime(median));
        node.set("firstRunTimesRealTime", timesRealTime(warmUps.getFirst()));
        node.set("fastestTimesRealTime", timesRealTime(sorted.getFirst()));
        node.set("slowestTimesRealTime", timesRealTime(sorted.getLast()));
        node.put("warmUpRuns", warmUps.size());
        node.put("runs", RUNS);
        node.set("peakMemoryMb", Json.figure(peakMemoryMb(), 1));
        return node;
    }

    private JsonNode timesRealTime(Run run) {
        return Json.figure(audioSeconds / run.wallSeconds, 1);
    }

    /** The process's largest resident set, which counts mapped files too; NaN where the system does not tell. */
    private static double peakMemoryMb() throws IOException {
        Path status = Path.of("/proc/self/status");
        if (!Files.isReadable(status)) {
            return Double.NaN;
        }
        return Files.readAllLines(status).stream()
                .filter(line -> line.startsWith("VmHWM:"))
                .mapToDouble(line -> Double.parseDouble(line.replaceAll("\\D", "")) / 1024)
                .findFirst()
                .orElse(Double.NaN);
    }
}
