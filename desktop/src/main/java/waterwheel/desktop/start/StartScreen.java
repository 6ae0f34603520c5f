package waterwheel.desktop.start;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import waterwheel.desktop.controls.Hint;

/** What is there without a session: recent ones, new from files (also by dropping a folder), open, the demo. */
public final class StartScreen extends VBox {
    /** What a user can ask for here. */
    public interface Wishes {
        void open(Path folder);

        void chooseAndOpen();

        void chooseFilesForNew();

        void newFrom(List<Path> files);

        void demo();

        void readGuide();
    }

    /**
     * Makes the screen.
     *
     * @param recent folders of the sessions opened last, newest first
     */
    public StartScreen(List<Path> recent, Wishes wishes) {
        getStyleClass().add("start");
        setAlignment(Pos.CENTER);
        Label name = new Label("Waterwheel");
        name.getStyleClass().add("product");
        Label purpose = new Label("Every level of the whole song, at every point of the mix.");
        purpose.getStyleClass().add("muted");
        Button fresh = button("New session from files…", "Choose audio files (Ctrl+N)", wishes::chooseFilesForNew);
        fresh.getStyleClass().add("accent");
        Button open = button("Open session…", "Choose a session's folder (Ctrl+O)", wishes::chooseAndOpen);
        Button demo = button("Open the demo session", "The Weir House Band plays Sluicegate Reel", wishes::demo);
        Button guide = button("Guide", "Twelve tasks, step by step, and every word explained (F1)", wishes::readGuide);
        HBox actions = new HBox(12, fresh, open, demo, guide);
        actions.setAlignment(Pos.CENTER);
        Label drop = new Label(
                "Or drop a folder of audio files here (WAV, AIFF, FLAC): it becomes a session, the files are copied.");
        drop.getStyleClass().add("drop-zone");
        getChildren().addAll(name, purpose, actions, drop);
        if (!recent.isEmpty()) {
            Label title = new Label("Recent sessions");
            title.getStyleClass().add("group");
            VBox list = new VBox(4, title);
            list.setMaxWidth(620);
            for (Path folder : recent) {
                Button entry = button(
                        folder.getFileName() + "   " + folder.getParent(),
                        "Open this session",
                        () -> wishes.open(folder));
                entry.setMaxWidth(Double.MAX_VALUE);
                entry.setAlignment(Pos.CENTER_LEFT);
                list.getChildren().add(entry);
            }
            getChildren().add(list);
        }
        setOnDragOver(event -> {
            if (event.getDragboard().hasFiles()) {
                event.acceptTransferModes(TransferMode.COPY);
            }
            event.consume();
        });
        setOnDragDropped(event -> drop(event, wishes));
    }

    private static void drop(DragEvent event, Wishes wishes) {
        boolean taken = event.getDragboard().hasFiles();
        if (taken) {
            wishes.newFrom(
                    event.getDragboard().getFiles().stream().map(File::toPath).toList());
        }
        event.setDropCompleted(taken);
        event.consume();
    }

    private static Button button(String text, String explanation, Runnable action) {
        Button button = new Button(text);
        Hint.on(button, explanation);
        button.setOnAction(event -> action.run());
        return button;
    }
}
