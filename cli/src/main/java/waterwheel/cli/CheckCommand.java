package waterwheel.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.findings.FindingsJson;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.units.LevelText;

@Command(name = "check", description = "The findings of a session; ends with status 1 where there are any.")
final class CheckCommand implements Callable<Integer> {
    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(index = "0", paramLabel = "SESSION", description = "The session's folder.")
    private Path folder = Path.of("");

    @Override
    public Integer call() throws Exception {
        Session session = SessionFolder.load(folder).session();
        SessionLevels levels =
                Console.withProgress("Measuring", progress -> SessionMeasurement.of(session, folder, progress));
        List<Finding> findings = Findings.of(levels);
        if (common.json) {
            Console.out().print(Json.pretty(FindingsJson.of(findings)));
        } else if (findings.isEmpty()) {
            Console.out().println("No findings: nothing here will be lost.");
        } else {
            findings.forEach(CheckCommand::print);
        }
        return findings.isEmpty() ? 0 : 1;
    }

    private static void print(Finding finding) {
        String place = finding.atSeconds().isPresent()
                ? " (at " + LevelText.time(finding.atSeconds().getAsDouble()) + ")"
                : "";
        Console.out().println(finding.severity().label() + place + ": " + finding.sentence() + " " + finding.advice());
    }
}
