package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import waterwheel.core.json.Json;

/** Runs work several times and reports the median of the later runs as one JSON line; the earlier ones let the JIT compile. */
final class Measured {
    /** What is measured. */
    interface Work {
        void run() throws Exception;
    }

    private static final int RUNS = 9;

    private Measured() {}

    static String run(String name, double audioSeconds, int warmUps, Work work) throws Exception {
        OperatingSystemMXBean system = (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();
        double firstWall = 0;
        for (int i = 0; i < warmUps; i++) {
            long began = System.nanoTime();
            work.run();
            firstWall = i == 0 ? (System.nanoTime() - began) * 1e-9 : firstWall;
        }
        List<double[]> runs = new ArrayList<>();
        for (int i = 0; i < RUNS; i++) {
            long cpu = system.getProcessCpuTime();
            long wall = System.nanoTime();
            work.run();
            double wallSeconds = (System.nanoTime() - wall) * 1e-9;
            runs.add(new double[] {wallSeconds, (system.getProcessCpuTime() - cpu) * 1e-9});
        }
        runs.sort(Comparator.comparingDouble(run -> run[0]));
        double wallSeconds = runs.get(RUNS / 2)[0];
        double cpuSeconds = runs.get(RUNS / 2)[1];
        ObjectNode node = Json.object();
        node.put("bench", name);
        node.put("cores", Runtime.getRuntime().availableProcessors());
        node.set("audioSeconds", Json.figure(audioSeconds, 1));
        node.set("wallSeconds", Json.figure(wallSeconds));
        node.set("cpuSeconds", Json.figure(cpuSeconds));
        node.set("timesRealTime", Json.figure(audioSeconds / wallSeconds, 1));
        node.set("firstRunTimesRealTime", Json.figure(audioSeconds / firstWall, 1));
        node.set("fastestTimesRealTime", Json.figure(audioSeconds / runs.getFirst()[0], 1));
        node.set("slowestTimesRealTime", Json.figure(audioSeconds / runs.getLast()[0], 1));
        node.put("warmUpRuns", warmUps);
        node.put("runs", RUNS);
        node.set("peakMemoryMb", Json.figure(peakMemoryMb(), 1));
        return Json.compact(node);
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
