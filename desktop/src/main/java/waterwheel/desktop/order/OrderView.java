package waterwheel.desktop.order;

import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.order.Part;
import waterwheel.core.songs.SongRow;
import waterwheel.desktop.controls.AudioChooser;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.WorkLine;

/** A running order: songs as rows, parts as columns, how far each is from its target; correcting, listening, delivering. */
public final class OrderView extends VBox {
    private final OrderModel model;
    private final SongHeader header = new SongHeader();
    private final ListView<SongRow> list = new ListView<>();
    private final TargetBar target;
    private final CorrectionPane correction;
    private final DeliverBar deliver;
    private final Label told = new Label();
    private final List<Subscription> subscriptions = new ArrayList<>();
    private boolean refreshing;

    /** @param openSession opens the session that a song is */
    public OrderView(OrderModel model, WorkLine work, Consumer<Path> openSession) {
        this.model = model;
        getStyleClass().addAll("view", "order");
        target = new TargetBar(model);
        correction = new CorrectionPane(model, openSession);
        deliver = new DeliverBar(model, work);
        list.setCellFactory(view -> new SongCell(model));
        list.setAccessibleText("Songs of the running order");
        Hint.on(list, "Choose a song and a part: arrow keys, or a click on its cell");
        list.setPlaceholder(new Label("No song yet: add folders of stems or sessions, or drop them here."));
        list.getSelectionModel().selectedItemProperty().subscribe(this::choose);
        list.addEventFilter(KeyEvent.KEY_PRESSED, this::onKey);
        VBox.setVgrow(list, Priority.ALWAYS);
        VBox songs = new VBox(2, header, list);
        HBox.setHgrow(songs, Priority.ALWAYS);
        songs.setMinWidth(0);
        HBox middle = new HBox(10, songs, correction);
        VBox.setVgrow(middle, Priority.ALWAYS);
        middle.setMinHeight(0);
        getChildren().addAll(title(), target, middle, new ListenBar(model), deliver);
        setOnDragOver(event -> {
            if (event.getDragboard().hasFiles()) {
                event.acceptTransferModes(TransferMode.COPY);
                event.consume();
            }
        });
        setOnDragDropped(event -> {
            if (event.getDragboard().hasFiles()) {
                model.add(event.getDragboard().getFiles().stream()
                        .map(File::toPath)
                        .toList());
                event.setDropCompleted(true);
                event.consume();
            }
        });
        subscriptions.add(model.levelsProperty().subscribe(levels -> refresh()));
        subscriptions.add(model.historyProperty().subscribe(history -> deliver.show(history.present())));
        subscriptions.add(model.proposalsProperty().subscribe(proposals -> {
            target.show(proposals);
            refresh();
        }));
        subscriptions.add(model.selectionProperty().subscribe(selected -> refresh()));
        subscriptions.add(model.sectionProperty().subscribe(section -> refresh()));
        subscriptions.add(model.byDistanceProperty().subscribe(on -> refresh()));
    }

    private HBox title() {
        Label title = new Label("Running order");
        title.getStyleClass().add("view-title");
        title.setMinWidth(USE_PREF_SIZE);
        Label name = new Label(model.order().title());
        name.setMinWidth(0);
        told.getStyleClass().add("muted");
        told.setMinWidth(0);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        SmallButton folder = new SmallButton("Add a song…", "Add a session's folder or a folder of stems");
        folder.setOnAction(event -> {
            DirectoryChooser chooser = new DirectoryChooser();
            chooser.setTitle("Folder of a song");
            File chosen = chooser.showDialog(getScene().getWindow());
            if (chosen != null) {
                model.add(List.of(chosen.toPath()));
            }
        });
        SmallButton files = new SmallButton("Add files…", "Add audio files, each a song of its own");
        files.setOnAction(event -> {
            List<File> chosen = AudioChooser.titled("Songs")
                    .showOpenMultipleDialog(getScene().getWindow());
            if (chosen != null) {
                model.add(chosen.stream().map(File::toPath).toList());
            }
        });
        Path file = model.place().file();
        Hint.on(name, file.toString());
        HBox line = new HBox(12, title, name, told, gap, folder, files);
        line.setAlignment(Pos.BASELINE_LEFT);
        return line;
    }

    private void choose(@Nullable SongRow row) {
        if (row != null && !refreshing) {
            OrderModel.Selection selected = model.selectionProperty().get();
            if (selected == null || !selected.song().equals(row.song().id())) {
                model.select(row.song().id(), selected == null ? "" : selected.part());
            }
        }
    }

    /** Left and right go from part to part; with Alt and Shift songs move. */
    private void onKey(KeyEvent event) {
        OrderModel.Selection selected = model.selectionProperty().get();
        if (selected == null) {
            return;
        }
        boolean plain = !event.isShortcutDown() && !event.isAltDown();
        if (plain && (event.getCode() == KeyCode.LEFT || event.getCode() == KeyCode.RIGHT)) {
            List<String> columns = columns();
            int at = columns.indexOf(selected.part()) + (event.getCode() == KeyCode.LEFT ? -1 : 1);
            model.select(selected.song(), columns.get(Math.clamp(at, 0, columns.size() - 1)));
            event.consume();
        } else if (event.isAltDown() && event.isShiftDown() && event.getCode() == KeyCode.UP) {
            model.move(selected.song(), -1);
            event.consume();
        } else if (event.isAltDown() && event.isShiftDown() && event.getCode() == KeyCode.DOWN) {
            model.move(selected.song(), 1);
            event.consume();
        } else if (plain && event.getCode() == KeyCode.SPACE) {
            // The list would keep it for itself.
            model.listening().playOrStop();
            event.consume();
        } else if (plain && event.getCode() == KeyCode.A) {
            model.acceptSelected();
            event.consume();
        } else if (plain && event.getCode() == KeyCode.DELETE) {
            model.remove(selected.song());
            event.consume();
        }
    }

    private List<String> columns() {
        List<Part> parts = model.levels().parts();
        List<String> columns = new ArrayList<>(parts.stream().map(Part::name).toList());
        columns.add(SongHeader.sumAt(parts), "");
        return columns;
    }

    private void refresh() {
        refreshing = true;
        header.show(model.levels());
        target.show(model.levels());
        List<SongRow> rows = model.rows();
        if (list.getItems().equals(rows)) {
            list.refresh();
        } else {
            list.getItems().setAll(rows);
        }
        OrderModel.Selection selected = model.selectionProperty().get();
        for (int i = 0; i < rows.size(); i++) {
            if (selected != null && rows.get(i).song().id().equals(selected.song())) {
                list.getSelectionModel().select(i);
            }
        }
        long pending = rows.stream().filter(SongRow::isPending).count();
        long faulty = rows.stream().filter(row -> !row.problem().isEmpty()).count();
        told.setText(rows.size()
                + (rows.size() == 1 ? " song" : " songs")
                + (pending > 0 ? ", " + pending + " being measured" : "")
                + (faulty > 0 ? ", " + faulty + " cannot be read" : ""));
        correction.show();
        refreshing = false;
    }

    /** Writes every song. */
    public void deliver() {
        deliver.deliverAll();
    }

    /** Stops following the running order. */
    public void close() {
        subscriptions.forEach(Subscription::unsubscribe);
        subscriptions.clear();
    }
}
