package waterwheel.desktop.app;

import java.io.IOException;
import java.util.Comparator;
import java.util.concurrent.CompletableFuture;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Controls;
import waterwheel.desktop.model.SessionModel;

/** A run of the application without anybody at it and without a display, which ends when its work is done. */
abstract class Unattended {
    private static final long PATIENCE_MILLIS = 120_000;

    private static @Nullable Unattended wanted;

    private @Nullable Throwable failure;

    /** Does the work, on a thread of its own; what it throws is kept. */
    abstract void run(Desk desk, Stage stage) throws IOException;

    /** Opens what is named, does the work and ends; once in a process. */
    final void launch(String opened) {
        System.setProperty("glass.platform", "Headless");
        System.setProperty("prism.order", "sw");
        wanted = this;
        Application.launch(WaterwheelApp.class, opened);
    }

    /** What the work failed with. */
    @Nullable
    final Throwable failure() {
        return failure;
    }

    /** Called by the application when its window is there. */
    static void takeOver(Desk desk, Stage stage) {
        Unattended run = wanted;
        if (run != null) {
            wanted = null;
            Thread.ofPlatform().daemon().name("waterwheel-unattended").start(() -> {
                try {
                    run.run(desk, stage);
                } catch (IOException | RuntimeException e) {
                    run.failure = e;
                } finally {
                    Platform.runLater(() -> {
                        desk.leave();
                        Platform.exit();
                    });
                }
            });
        }
    }

    /** The channel with the most curves. */
    static ChannelId mostRidden(SessionModel model) {
        return model.session().channels().stream()
                .map(Channel::id)
                .max(Comparator.comparingInt(
                        id -> Controls.ridden(model.session(), id).size()))
                .orElseThrow();
    }

    static <T extends @Nullable Object> T onInterface(Supplier<T> work) {
        // Whatever goes wrong there ends the run here, errors as well as exceptions.
        return CompletableFuture.supplyAsync(work, Platform::runLater).join();
    }

    static void until(BooleanSupplier condition) {
        long end = System.currentTimeMillis() + PATIENCE_MILLIS;
        while (!onInterface(condition::getAsBoolean)) {
            if (System.currentTimeMillis() > end) {
                throw new IllegalStateException("The application did not settle in " + PATIENCE_MILLIS / 1000 + " s");
            }
            rest(20);
        }
    }

    static void rest(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("The run was interrupted", e);
        }
    }
}
