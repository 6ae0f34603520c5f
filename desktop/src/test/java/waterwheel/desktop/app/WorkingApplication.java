package waterwheel.desktop.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Objects;
import java.util.SplittableRandom;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;
import javafx.util.Duration;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.SessionFileException;
import waterwheel.desktop.model.SessionModel;

/**
 * The real application with somebody at work in it, as a process of its own that is to be killed: it counts in the main
 * bus's trim, saves now and then, and writes down what it did and when.
 *
 * <p>Arguments: the session's folder, the file for what is written down, a number for chance, and after how many steps
 * it ends by itself.
 */
public final class WorkingApplication extends Application {
    /** One step of the count, in dB of trim. */
    static final double STEP_DB = 0.01;

    private int count;
    private int left;

    /** Where the process begins: an application itself would want its toolkit as a module. */
    static final class Start {
        private Start() {}

        public static void main(String[] args) {
            launch(WorkingApplication.class, args);
        }
    }

    @Override
    public void start(Stage stage) throws SessionFileException {
        Path folder = Path.of(getParameters().getRaw().get(0));
        Path diary = Path.of(getParameters().getRaw().get(1));
        SplittableRandom random =
                new SplittableRandom(Long.parseLong(getParameters().getRaw().get(2)));
        left = Integer.parseInt(getParameters().getRaw().get(3));
        Desk desk = WaterwheelApp.show(stage, Settings.in(diary.resolveSibling("settings")));
        desk.openNow(folder);
        SessionModel model = Objects.requireNonNull(desk.model());
        count = (int) Math.round(model.session().main().strip().trimDb() / STEP_DB);
        Timeline work = new Timeline(new KeyFrame(Duration.millis(200), event -> {
            count++;
            model.edit(Edits.trim(model.session().main(), count * STEP_DB));
            write(diary, "did");
            if (random.nextInt(12) == 0) {
                desk.save();
                write(diary, "saved");
            }
            if (--left == 0) {
                Platform.exit();
            }
        }));
        work.setCycleCount(Animation.INDEFINITE);
        work.play();
    }

    private void write(Path diary, String what) {
        try {
            String line = what + " " + count + " " + System.currentTimeMillis() + "\n";
            Files.writeString(diary, line, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
