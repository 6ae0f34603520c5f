package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.filefacts.FileReport;
import waterwheel.core.filefacts.FileReportJson;
import waterwheel.core.json.Json;
import waterwheel.core.metering.Figures;
import waterwheel.core.units.LevelText;
import waterwheel.core.units.PlainText;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

@Command(name = "measure", description = "Measures audio files.")
final class MeasureCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Option(names = "--list", paramLabel = "FILE", description = "Take paths from a file, one a line.")
    private @Nullable Path list;

    @Option(names = "--series", description = "Add readings over time to the JSON.")
    private boolean series;

    @Option(names = "--jsonl", description = "Print each file's object on a line of its own as soon as it is done.")
    private boolean lines;

    @Option(
            names = "--nominal",
            paramLabel = "DBFS",
            converter = NumberIn.Nominal.class,
            description = "Level of the sine that reads 0 VU, -24 to -12 (default: ${DEFAULT-VALUE}).")
    private double nominalDbfs = -18;

    @Parameters(paramLabel = "FILE", description = "Audio files.")
    private List<Path> files = new ArrayList<>();

    @Spec
    private @Nullable CommandSpec spec;

    @Override
    public Integer call() throws Exception {
        List<String> all = new ArrayList<>();
        files.forEach(file -> all.add(file.toString()));
        if (list != null) {
            all.addAll(listed(list));
        }
        if (all.isEmpty() && spec != null) {
            throw new ParameterException(spec.commandLine(), "Name a file to measure, or a list of files with --list.");
        }
        return Console.withProgress("Measuring", progress -> measureAll(all, progress));
    }

    private static List<String> listed(Path file) throws SessionFileException {
        try {
            return Files.readAllLines(file).stream()
                    .filter(line -> !line.isBlank())
                    .map(String::strip)
                    .toList();
        } catch (IOException e) {
            throw new SessionFileException(
                    "The list " + file + " cannot be read.", "Name a text file with one path a line.", e);
        }
    }

    private int measureAll(List<String> all, Progress progress) {
        ObjectNode document = Json.object();
        ArrayNode measured = document.putArray("files");
        boolean refused = false;
        try (Team team = Team.ofAllProcessors()) {
            for (int i = 0; i < all.size(); i++) {
                String name = all.get(i);
                ObjectNode node;
                try (AudioFile file = AudioFiles.open(Path.of(name))) {
                    Progress part = progress.part((double) i / all.size(), (i + 1.0) / all.size());
                    FileReport report = FileReport.of(file, nominalDbfs, team, part);
                    node = FileReportJson.file(file.path(), report, series);
                    printReadable(file.path(), report);
                } catch (AudioFileException e) {
                    refused = true;
                    node = FileReportJson.unreadable(name, e.getMessage());
                    Console.tell(e.getMessage());
                } catch (InvalidPathException e) {
                    refused = true;
                    String message = "'" + PlainText.of(name, 200) + "' is no path on this system. Name an audio file.";
                    node = FileReportJson.unreadable(name, message);
                    Console.tell(message);
                }
                if (lines) {
                    Console.say(Json.compact(node));
                } else {
                    measured.add(node);
                }
            }
        }
        if (common.json && !lines) {
            Console.out().print(Json.pretty(document));
        }
        return refused ? 1 : 0;
    }

    private void printReadable(Path path, FileReport report) {
        if (common.json || lines) {
            return;
        }
        Figures figures = report.figures();
        Console.say(path);
        Console.say("  peak " + LevelText.level(figures.samplePeakDbfs(), "dBFS") + ", true peak "
                + LevelText.level(figures.truePeakDbtp(), "dBTP") + ", average "
                + LevelText.level(figures.averageDbfs(), "dBFS") + ", noise floor "
                + LevelText.level(figures.noiseFloorDbfs(), "dBFS"));
        Console.say("  loudness " + LevelText.level(figures.integratedLufs(), "LUFS") + ", range "
                + LevelText.signed(figures.loudnessRangeLu(), 1, false) + " LU, highest VU "
                + LevelText.signed(report.vuMaxDb(), 1, true) + " VU");
        if (report.facts().flattenedRuns() > 0) {
            Console.say("  flattened: " + report.facts().flattenedSamples() + " samples in "
                    + report.facts().flattenedRuns() + " places");
        }
        if (report.facts().oversSamples() > 0) {
            Console.say(
                    "  over full scale, harmless in float: " + report.facts().oversSamples() + " samples");
        }
    }
}
