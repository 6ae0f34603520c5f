package waterwheel.desktop.controls;

import java.util.Objects;
import javafx.scene.Scene;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;

/** Tests of controls by themselves, each in a window of its own. */
abstract class InAWindow {
    final FxRobot robot = new FxRobot();
    private @Nullable Stage stage;

    @BeforeAll
    static void start() throws Exception {
        FxToolkit.registerPrimaryStage();
    }

    @BeforeEach
    void make_a_window() throws Exception {
        stage = FxToolkit.registerStage(Stage::new);
    }

    @AfterEach
    void close() {
        robot.interact(() -> Objects.requireNonNull(stage).close());
    }

    /** Shows a scene in the window. Interface thread. */
    final void showScene(Scene scene) {
        Stage window = Objects.requireNonNull(stage);
        window.setScene(scene);
        // Or it is put somewhere else after it has been shown, and the pointer goes to where it was.
        window.setX(200);
        window.setY(150);
        window.show();
        window.toFront();
    }
}
