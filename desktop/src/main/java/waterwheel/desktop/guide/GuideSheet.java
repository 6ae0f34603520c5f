package waterwheel.desktop.guide;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ListChoice;
import waterwheel.desktop.controls.Sight;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.TypedWords;

/**
 * The guide over the view: its chapters at the left, found by typing any of their words, and the chosen one beside them.
 * Up and Down choose, Escape puts it away.
 */
public final class GuideSheet extends VBox {
    /** The title under which all keys stand, behind the chapters. */
    public static final String KEYS = "Keys";

    private static final PseudoClass FOUND = PseudoClass.getPseudoClass("found");
    private static final double LIST_WIDTH = 250;
    /** As much of a line as says what was found. */
    private static final int EXCERPT = 44;

    private record Page(String title, String text, Optional<Guide.Chapter> steps, Supplier<Node> node) {}

    private final List<Page> pages;
    private final Runnable away;
    private final TextField typed = new TextField();
    private final ListView<Page> list = new ListView<>();
    private final ScrollPane scroll = new ScrollPane();
    private final SmallButton inSight =
            new SmallButton("Steps in sight", "Keep this task's steps under the view, and put the guide away");

    /**
     * Makes it, open at its first chapter.
     *
     * @param guide to read
     * @param keys the keys of all menus
     * @param keep keeps the steps of a chapter in sight
     * @param away puts this away
     */
    public GuideSheet(Guide guide, List<KeysPage.Group> keys, Consumer<Guide.Chapter> keep, Runnable away) {
        this.away = away;
        pages = new ArrayList<>();
        guide.chapters()
                .forEach(chapter -> pages.add(new Page(
                        chapter.title(),
                        chapter.text(),
                        Optional.of(chapter).filter(one -> one.steps().isPresent()),
                        () -> page(chapter))));
        pages.add(new Page(KEYS, KeysPage.text(keys), Optional.empty(), () -> new KeysPage(keys)));
        getStyleClass().addAll("key-sheet", "guide");
        inSight.setOnAction(event -> {
            Page page = list.getSelectionModel().getSelectedItem();
            if (page != null) {
                page.steps().ifPresent(keep);
                away.run();
            }
        });
        list.setCellFactory(view -> new Cell());
        list.setAccessibleText("Chapters of the guide");
        list.setPlaceholder(new Label("No chapter speaks of that."));
        Hint.on(list, "Chapters, those alone that hold what is typed");
        list.setMinWidth(LIST_WIDTH);
        list.setMaxWidth(LIST_WIDTH);
        list.getSelectionModel().selectedItemProperty().subscribe(this::show);
        scroll.setFitToWidth(true);
        scroll.setAccessibleText("The chosen chapter");
        Hint.on(scroll, "The chosen chapter; Page Up and Page Down scroll it");
        HBox.setHgrow(scroll, Priority.ALWAYS);
        HBox body = new HBox(12, list, scroll);
        VBox.setVgrow(body, Priority.ALWAYS);
        getChildren().addAll(heading(), body);
        typed.textProperty().subscribe(text -> find());
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
    }

    private HBox heading() {
        Label title = new Label("Guide");
        title.getStyleClass().add("view-title");
        typed.setAccessibleText("Find a word in the guide");
        Hint.on(typed, "Type words to see the chapters that hold them; Up and Down choose one");
        typed.setPrefColumnCount(16);
        Label find = new Label("Find a word");
        find.getStyleClass().add("muted");
        find.setMinWidth(Region.USE_PREF_SIZE);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button close = new SmallButton("Close", "Put the guide away (F1 or Escape)");
        close.setOnAction(event -> away.run());
        HBox heading = new HBox(12, title, find, typed, gap, inSight, close);
        heading.setAlignment(Pos.CENTER_LEFT);
        return heading;
    }

    @Override
    public void requestFocus() {
        typed.requestFocus();
    }

    /** Opens a chapter, or the keys. */
    public void open(String title) {
        pages.stream().filter(page -> page.title().equals(title)).findFirst().ifPresent(page -> {
            typed.clear();
            list.getSelectionModel().select(page);
            list.scrollTo(page);
        });
    }

    private TypedWords words() {
        return TypedWords.of(typed.getText());
    }

    private void find() {
        TypedWords words = words();
        Page before = list.getSelectionModel().getSelectedItem();
        List<Page> found = pages.stream()
                .filter(page -> words.allIn(page.title() + "\n" + page.text()))
                .toList();
        list.getItems().setAll(found);
        if (before != null && found.contains(before)) {
            list.getSelectionModel().select(before);
        } else {
            list.getSelectionModel().selectFirst();
        }
        markFound();
    }

    /** Marks every paragraph and item of the page that holds the first of the typed words, and brings one into sight. */
    private void markFound() {
        if (!(scroll.getContent() instanceof Parent page)) {
            return;
        }
        TypedWords words = words();
        List<Node> found = new ArrayList<>();
        for (Node node : page.lookupAll(".guide-words")) {
            boolean holds = words.firstIn(node.getAccessibleText()) >= 0;
            node.pseudoClassStateChanged(FOUND, holds);
            if (holds) {
                found.add(node);
            }
        }
        // What is about the word before what merely names it.
        found.stream()
                .filter(node -> words.firstIn(node.getAccessibleText()) == 0)
                .findFirst()
                .or(() -> found.stream().findFirst())
                .ifPresentOrElse(node -> Sight.bring(scroll, node), () -> scroll.setVvalue(0));
    }

    /** The first place where a page holds the first of the typed words. */
    private String excerpt(Page page) {
        int at = words().firstIn(page.text());
        if (at < 0) {
            return "";
        }
        int from = Math.max(0, page.text().lastIndexOf(' ', Math.max(0, at - 8)) + 1);
        String line = page.text().substring(from).lines().findFirst().orElse("");
        return line.length() <= EXCERPT ? line : line.substring(0, EXCERPT).strip() + "…";
    }

    private void show(@Nullable Page page) {
        boolean steps = page != null && page.steps().isPresent();
        inSight.setVisible(steps);
        inSight.setManaged(steps);
        scroll.setContent(page == null ? null : page.node().get());
        scroll.setVvalue(0);
        markFound();
    }

    private static VBox page(Guide.Chapter chapter) {
        VBox page = new VBox();
        page.getStyleClass().add("guide-page");
        Label title = new Label(chapter.title());
        title.getStyleClass().add("guide-title");
        title.setWrapText(true);
        page.getChildren().add(title);
        chapter.blocks().forEach(block -> page.getChildren().add(Prose.of(block)));
        return page;
    }

    private void key(KeyEvent event) {
        switch (event.getCode()) {
            case DOWN -> ListChoice.moveBy(list, 1);
            case UP -> ListChoice.moveBy(list, -1);
            case PAGE_DOWN -> turn(1);
            case PAGE_UP -> turn(-1);
            case ESCAPE -> away.run();
            default -> {
                return;
            }
        }
        event.consume();
    }

    /** Scrolls by most of what is seen. */
    private void turn(int by) {
        double seen = scroll.getViewportBounds().getHeight();
        double hidden = scroll.getContent().getLayoutBounds().getHeight() - seen;
        if (hidden > 0) {
            scroll.setVvalue(Math.clamp(scroll.getVvalue() + by * 0.9 * seen / hidden, 0, 1));
        }
    }

    /** A chapter, and what of it was found. */
    private final class Cell extends ListCell<Page> {
        private final Label title = new Label();
        private final Label found = new Label();
        private final VBox both = new VBox(title, found);

        Cell() {
            found.getStyleClass().add("muted");
            both.setAlignment(Pos.CENTER_LEFT);
            both.setMinWidth(0);
            both.setPrefWidth(1);
        }

        @Override
        protected void updateItem(Page page, boolean empty) {
            super.updateItem(page, empty);
            setGraphic(empty ? null : both);
            if (!empty && page != null) {
                title.setText(page.title());
                found.setText(excerpt(page));
                found.setVisible(!found.getText().isEmpty());
                found.setManaged(found.isVisible());
                setAccessibleText(page.title());
            }
        }
    }
}
