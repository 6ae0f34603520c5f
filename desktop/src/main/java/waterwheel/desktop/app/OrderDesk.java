package waterwheel.desktop.app;

import java.io.File;
import java.nio.file.Path;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import waterwheel.core.demo.DemoOrder;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.store.OrderFile;
import waterwheel.core.units.FileStem;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.Messages;
import waterwheel.desktop.order.OrderModel;
import waterwheel.desktop.order.OrderView;

/** What a user can do with running orders as wholes. Holds the one that is open, beside a session or without one. */
final class OrderDesk {
    private static final FileChooser.ExtensionFilter FILES =
            new FileChooser.ExtensionFilter("Running orders (*.json)", "*.json");

    private final Stage stage;
    private final Messages messages;
    private final WorkLine work;
    private final Runnable shown;
    private final Consumer<Path> openSession;
    private final StackPane holder = new StackPane();
    private @Nullable OrderModel model;
    private @Nullable OrderView view;

    /**
     * Begins without one.
     *
     * @param shown has it seen when one was opened or closed
     * @param openSession opens the session that a song is
     */
    OrderDesk(Stage stage, Messages messages, WorkLine work, Runnable shown, Consumer<Path> openSession) {
        this.stage = stage;
        this.messages = messages;
        this.work = work;
        this.shown = shown;
        this.openSession = openSession;
        holder.getChildren().setAll(beginning());
    }

    /** The running order's view, or how to begin one. */
    Node node() {
        return holder;
    }

    @Nullable
    OrderModel model() {
        return model;
    }

    @Nullable
    OrderView view() {
        return view;
    }

    private VBox beginning() {
        Label title = new Label("Running order");
        title.getStyleClass().add("view-title");
        Label purpose = new Label("Songs side by side, part by part: what each measures, how far it is from its target,"
                + " and what would bring it there.");
        purpose.setWrapText(true);
        purpose.getStyleClass().add("muted");
        Button fresh = button("New running order…", "Name a file for it; songs are added then", this::chooseNew);
        fresh.getStyleClass().add("accent");
        Button open = button("Open a running order…", "Choose its file", this::chooseAndOpen);
        Button demo = button("Open the demo's", "Six short songs of the Weir House Band, unequal", this::demo);
        HBox actions = new HBox(12, fresh, open, demo);
        actions.setAlignment(Pos.CENTER);
        VBox box = new VBox(14, title, purpose, actions);
        box.setAlignment(Pos.CENTER);
        box.getStyleClass().add("view");
        return box;
    }

    private static Button button(String text, String explanation, Runnable action) {
        Button button = new Button(text);
        Hint.on(button, explanation);
        button.setOnAction(event -> action.run());
        return button;
    }

    void chooseNew() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("File of a new running order");
        chooser.setInitialFileName("order.json");
        chooser.getExtensionFilters().setAll(FILES);
        File chosen = chooser.showSaveDialog(stage);
        if (chosen != null && mayLeave()) {
            Path file = chosen.toPath();
            try {
                OrderFile.create(RunningOrder.empty(FileStem.of(file)), file);
                openNow(file);
            } catch (SessionFileException e) {
                messages.tell(e.getMessage());
            }
        }
    }

    void chooseAndOpen() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Open a running order");
        chooser.getExtensionFilters().setAll(FILES);
        File chosen = chooser.showOpenDialog(stage);
        if (chosen != null && mayLeave()) {
            try {
                openNow(chosen.toPath());
            } catch (SessionFileException e) {
                messages.tell(e.getMessage());
            }
        }
    }

    void demo() {
        if (mayLeave()) {
            Path folder = Desk.sessions().resolve("Weir House Band evening");
            work.start(
                    "Playing the demo songs",
                    progress -> {
                        Path file = DemoOrder.writeIfMissing(folder, progress);
                        return new Found(file, OrderFile.load(file));
                    },
                    found -> show(found.loaded(), found.file()));
        }
    }

    /** A running order that was read. */
    private record Found(Path file, OrderFile.Loaded loaded) {}

    /** Opens one at once. */
    void openNow(Path file) throws SessionFileException {
        show(OrderFile.load(file), file);
    }

    private void show(OrderFile.Loaded loaded, Path file) {
        leave();
        OrderModel opened = new OrderModel(loaded, file, messages);
        OrderView made = new OrderView(opened, work, openSession);
        model = opened;
        view = made;
        holder.getChildren().setAll(made);
        if (!loaded.unknownFields().isEmpty()) {
            messages.tell("The running order holds something that this version does not know ("
                    + loaded.unknownFields().getFirst()
                    + "). Saving leaves it out; the file as it is now stays among the earlier saves.");
        }
        shown.run();
    }

    void save() {
        OrderModel open = model;
        if (open != null) {
            try {
                open.save();
                messages.tell("Saved " + open.place().file() + ".");
            } catch (SessionFileException e) {
                messages.tell(e.getMessage());
            }
        }
    }

    void close() {
        if (mayLeave()) {
            leave();
            shown.run();
        }
    }

    /** Ends it without asking. */
    void leave() {
        if (view != null) {
            view.close();
            view = null;
        }
        if (model != null) {
            model.close();
            model = null;
        }
        holder.getChildren().setAll(beginning());
    }

    /** Whether the open one may go; asks where work would be lost. */
    boolean mayLeave() {
        OrderModel open = model;
        if (open == null || !open.unsavedProperty().get()) {
            return true;
        }
        return LeaveQuestion.mayLeave(
                stage, "the running order " + open.order().title(), this::save, () -> open.unsavedProperty()
                        .get());
    }
}
