package waterwheel.desktop.frame;

import java.util.concurrent.CancellationException;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.work.Progress;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.model.Messages;

/** Long work of the window, with its progress and a way to stop it. One piece of work at a time. */
public final class WorkLine extends HBox {
    /** Work that runs on a thread of its own. */
    public interface Work<T> {
        T run(Progress progress) throws WaterwheelException;
    }

    private final Messages messages;
    private final Label what = new Label();
    private final ProgressBar bar = new ProgressBar(0);
    private volatile boolean stopping;

    public WorkLine(Messages messages) {
        this.messages = messages;
        getStyleClass().add("message-line");
        setAlignment(Pos.CENTER_LEFT);
        bar.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(bar, Priority.ALWAYS);
        Button stop = new Button("Stop");
        stop.getStyleClass().add("small");
        Hint.on(stop, "Stop this work");
        stop.setOnAction(event -> stopping = true);
        getChildren().addAll(what, bar, stop);
        show(false);
    }

    /** Runs work unless some runs already, and hands its result over on the interface thread. */
    public <T> void start(String name, Work<T> work, Consumer<T> done) {
        if (isVisible()) {
            messages.tell("Wait until '" + what.getText() + "' has ended, or stop it.");
            return;
        }
        what.setText(name);
        bar.setProgress(0);
        bar.setAccessibleText(name);
        stopping = false;
        show(true);
        Thread.ofPlatform().daemon().name("waterwheel-work").start(() -> {
            try {
                T result = work.run(new Shown());
                Platform.runLater(() -> done.accept(result));
            } catch (CancellationException e) {
                Platform.runLater(() -> messages.tell("Stopped: " + name + "."));
            } catch (WaterwheelException | RuntimeException e) {
                Platform.runLater(() -> messages.tell(String.valueOf(e.getMessage())));
            } finally {
                Platform.runLater(() -> show(false));
            }
        });
    }

    private void show(boolean visible) {
        setVisible(visible);
        setManaged(visible);
    }

    private final class Shown implements Progress {
        @Override
        public void at(double part) {
            Platform.runLater(() -> bar.setProgress(part));
        }

        @Override
        public boolean stopped() {
            return stopping;
        }
    }
}
