package waterwheel.cli;

import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.findings.FindingsJson;
import waterwheel.core.json.Json;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;

@Command(name = "check", description = "The findings of a session; ends with status 1 where there are any.")
final class CheckCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Override
    public Integer call() throws Exception {
        Session session = options.session();
        SessionLevels levels = options.measure(session);
        List<Finding> findings = Findings.of(levels);
        if (options.json()) {
            Console.out().print(Json.pretty(FindingsJson.of(findings)));
        } else if (findings.isEmpty()) {
            Console.say("No findings: nothing here will be lost.");
        } else {
            findings.forEach(CheckCommand::print);
        }
        return findings.isEmpty() ? 0 : 1;
    }

    private static void print(Finding finding) {
        String place = finding.atSeconds().isPresent()
                ? " (at " + LevelText.time(finding.atSeconds().getAsDouble()) + ")"
                : "";
        Console.say(finding.severity().label() + place + ": " + finding.sentence() + " " + finding.advice());
    }
}
