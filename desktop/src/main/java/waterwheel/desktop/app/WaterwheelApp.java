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
        List<String> raw = getParameters().getRaw();
        desk = show(stage, Settings.ofUser(), raw.isEmpty() ? null : Path.of(raw.getFirst()));
        Offscreen.takeOver(desk, stage);
    }

    /** Fills and shows a window with the start screen. */
    static Desk show(Stage stage, Settings settings) {
        try {
            return show(stage, settings, null);
        } catch (SessionFileException e) {
            throw new IllegalStateException("Nothing was read.", e);
        }
    }

    /** The window comes up with what it was started with, and not with a start screen first that nobody asked for. */
    private static Desk show(Stage stage, Settings settings, @Nullable Path named) throws SessionFileException {
        Theme.prepare(settings);
        Desk desk = new Desk(stage, settings);
        if (named == null) {
            desk.window().showStart();
        } else {
            desk.openNow(named);
        }
        stage.setScene(new Scene(desk.content(), WIDTH, HEIGHT));
        desk.look();
        stage.setMinWidth(960);
        stage.setMinHeight(640);
        stage.show();
        return desk;
    }

    @Override
    public void stop() {
        if (desk != null) {
            desk.leave();
        }
    }
}
