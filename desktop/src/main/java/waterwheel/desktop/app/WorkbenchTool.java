package waterwheel.desktop.app;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.spi.ToolProvider;
import javafx.application.Application;
import waterwheel.core.json.Json;

/**
 * The application as a tool that the command line finds by name: {@code start}, {@code open DIR}, {@code demo DIR},
 * {@code order FILE}, {@code shots DIR-OR-FILE OUT}, {@code pace DIR}; a last word {@code json} asks for a document instead
 * of sentences. Where the machine has no display, what would open a window runs offscreen instead and leaves pictures.
 */
public final class WorkbenchTool implements ToolProvider {
    @Override
    public String name() {
        return "waterwheel-workbench";
    }

    @Override
    public int run(PrintWriter out, PrintWriter err, String... args) {
        List<String> words = Arrays.asList(args);
        boolean json = words.contains("json");
        String what = args[0];
        if (what.equals("pace")) {
            return runPace(out, err, args[1]);
        }
        boolean offscreen = what.equals("shots") || !hasDisplay();
        if (!what.equals("start") && Files.isDirectory(Path.of(args[1]))) {
            ReadAhead.begin(Path.of(args[1]));
        }
        if (!offscreen) {
            Application.launch(WaterwheelApp.class, what.equals("start") ? new String[0] : new String[] {args[1]});
            return 0;
        }
        if (!what.equals("shots")) {
            err.println("This machine has no display: the application runs offscreen, measures, plays, and draws its"
                    + " views.");
            err.flush();
        }
        if (what.equals("start")) {
            err.println("Name a session to open, or run 'waterwheel demo'.");
            err.flush();
            return 1;
        }
        return runOffscreen(
                out, err, Path.of(args[1]), what.equals("shots") ? Path.of(args[2]) : pictures(Path.of(args[1])), json);
    }

    private static int runPace(PrintWriter out, PrintWriter err, String session) {
        Pace pace = new Pace();
        if (!succeeds(pace, session, "The window's pace could not be measured", err)) {
            return 1;
        }
        out.println(Json.compact(pace.measured()));
        out.flush();
        return 0;
    }

    /** Runs to the end; tells why where that failed. */
    private static boolean succeeds(Unattended run, String opened, String otherwise, PrintWriter err) {
        run.launch(opened);
        Throwable failure = run.failure();
        if (failure != null) {
            err.println(otherwise + ": " + failure.getMessage() + ".");
            err.flush();
        }
        return failure == null;
    }

    /** Beside a running order, inside a session's folder. */
    private static Path pictures(Path opened) {
        return Files.isDirectory(opened)
                ? opened.resolve("pictures")
                : opened.toAbsolutePath().resolveSibling("pictures");
    }

    private static int runOffscreen(PrintWriter out, PrintWriter err, Path session, Path pictures, boolean json) {
        Offscreen run = new Offscreen(pictures);
        if (!succeeds(run, session.toString(), "The pictures could not be drawn", err)) {
            return 1;
        }
        if (json) {
            ObjectNode node = Json.object();
            node.put("session", session.toString());
            ArrayNode files = node.putArray("pictures");
            run.drawn().forEach(path -> files.add(path.toString()));
            out.print(Json.pretty(node));
        } else {
            out.println(run.story());
            run.drawn().forEach(path -> out.println("Picture: " + path));
        }
        out.flush();
        return 0;
    }

    /** Whether a window can be opened here. */
    private static boolean hasDisplay() {
        if (!System.getProperty("os.name").toLowerCase(Locale.ROOT).contains("linux")) {
            return true;
        }
        return isSet("DISPLAY") || isSet("WAYLAND_DISPLAY");
    }

    private static boolean isSet(String variable) {
        String value = System.getenv(variable);
        return value != null && !value.isBlank();
    }
}
