package waterwheel.desktop.frame;

import java.util.Comparator;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ListChoice;
import waterwheel.desktop.controls.TypedWords;

/**
 * Every command, channel and finding by typing a part of its name: Up and Down choose, Enter goes there, Escape puts it
 * away. Lies over the view.
 */
public final class FindAnything extends VBox {
    private static final double KIND_WIDTH = 84;

    /**
     * Something that can be found.
     *
     * @param kind in a word: command, track or bus, finding, guide
     * @param key that does the same; empty where there is none
     */
    public record Thing(String kind, String name, String key, Runnable go) {}

    private final List<Thing> things;
    private final Runnable away;
    private final TextField typed = new TextField();
    private final ListView<Thing> list = new ListView<>();

    /**
     * Makes it.
     *
     * @param things that there are
     * @param away puts this away
     */
    public FindAnything(List<Thing> things, Runnable away) {
        this.things = things;
        this.away = away;
        getStyleClass().addAll("key-sheet", "find-anything");
        typed.setPromptText("Find a command, a channel or a finding");
        typed.setAccessibleText("Find a command, a channel or a finding");
        Hint.on(typed, "Type parts of its name; Up and Down choose, Enter goes there, Escape leaves");
        list.setFocusTraversable(false);
        list.setAccessibleText("What was found");
        list.setPlaceholder(new Label("Nothing is called so."));
        list.setCellFactory(view -> new Cell());
        list.setOnMouseClicked(event -> {
            if (event.getButton() == MouseButton.PRIMARY) {
                take();
            }
        });
        VBox.setVgrow(list, Priority.ALWAYS);
        getChildren().addAll(typed, list);
        typed.textProperty().subscribe(this::show);
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
    }

    @Override
    public void requestFocus() {
        typed.requestFocus();
    }

    /** Those whose names hold every typed word, names that begin with the first one before others, then as they come. */
    static List<Thing> matching(List<Thing> all, String typed) {
        TypedWords words = TypedWords.of(typed);
        return all.stream()
                .filter(thing -> words.allIn(thing.name()))
                .sorted(Comparator.comparing(thing -> words.firstIn(thing.name()) != 0))
                .toList();
    }

    private void show(String text) {
        list.getItems().setAll(matching(things, text));
        list.getSelectionModel().selectFirst();
    }

    private void key(KeyEvent event) {
        switch (event.getCode()) {
            case DOWN -> ListChoice.moveBy(list, 1);
            case UP -> ListChoice.moveBy(list, -1);
            case PAGE_DOWN -> ListChoice.moveBy(list, 10);
            case PAGE_UP -> ListChoice.moveBy(list, -10);
            case ENTER -> take();
            case ESCAPE -> away.run();
            default -> {
                return;
            }
        }
        event.consume();
    }

    private void take() {
        Thing chosen = list.getSelectionModel().getSelectedItem();
        if (chosen != null) {
            // First away, so that what is found has the focus to itself.
            away.run();
            chosen.go().run();
        }
    }

    /** A line: what it is, its name, its key. */
    private static final class Cell extends ListCell<Thing> {
        private final Label kind = new Label();
        private final Label name = new Label();
        private final Label key = new Label();
        private final HBox line = new HBox(8, kind, name, key);

        Cell() {
            kind.getStyleClass().add("muted");
            kind.setMinWidth(KIND_WIDTH);
            name.setMinWidth(0);
            name.setMaxWidth(Double.MAX_VALUE);
            HBox.setHgrow(name, Priority.ALWAYS);
            key.getStyleClass().add("muted");
            key.setMinWidth(Region.USE_PREF_SIZE);
            line.setAlignment(Pos.CENTER_LEFT);
            line.setMinWidth(0);
            line.setPrefWidth(1);
        }

        @Override
        protected void updateItem(Thing thing, boolean empty) {
            super.updateItem(thing, empty);
            setGraphic(empty ? null : line);
            if (!empty && thing != null) {
                kind.setText(thing.kind());
                name.setText(thing.name());
                key.setText(thing.key());
                setAccessibleText(thing.kind() + ": " + thing.name());
                Hint.on(this, thing.name().length() > 60 ? thing.name() : null);
            }
        }
    }
}
