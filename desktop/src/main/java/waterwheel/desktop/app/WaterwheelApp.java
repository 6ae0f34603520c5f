package waterwheel.desktop.app;

import java.nio.file.Path;
import java.util.List;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import waterwheel.core.errors.SessionFileException;

/** The application. Its raw parameters are a session's folder, or nothing for the start screen. */
public final class WaterwheelApp extends Application {
    static final int WIDTH = 1280;
    static final int HEIGHT = 800;

    private @Nullable Desk desk;

    @Override
    public void start(Stage stage) throws SessionFileException {
        Desk made = make(stage, Settings.ofUser());
        desk = made;
        List<String> raw = getParameters().getRaw();
        if (raw.isEmpty()) {
            made.window().showStart();
        } else {
            // At once, and not a start screen first that nobody asked for.
            made.openNow(Path.of(raw.getFirst()));
        }
        show(stage, made);
        Unattended.takeOver(made, stage);
    }

    /** Shows a window with the start screen. */
    static Desk show(Stage stage, Settings settings) {
        Desk desk = make(stage, settings);
        desk.window().showStart();
        show(stage, desk);
        return desk;
    }

    private static Desk make(Stage stage, Settings settings) {
        Theme.prepare(settings);
        return new Desk(stage, settings);
    }

    private static void show(Stage stage, Desk desk) {
        stage.setScene(new Scene(desk.content(), WIDTH, HEIGHT));
        desk.look();
        stage.setMinWidth(960);
        stage.setMinHeight(640);
        stage.show();
    }

    @Override
    public void stop() {
        if (desk != null) {
            desk.leave();
        }
    }
}
