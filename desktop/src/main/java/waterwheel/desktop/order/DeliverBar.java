package waterwheel.desktop.order;

import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextInputDialog;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.stage.DirectoryChooser;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.songs.ChannelPlan;
import waterwheel.core.songs.DeliveredSong;
import waterwheel.core.songs.Delivery;
import waterwheel.core.songs.DeliveryReport;
import waterwheel.core.songs.DeliveryRequest;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.frame.WorkLine;

/** Delivering songs as corrected: how they are laid out, which parts, where to. */
final class DeliverBar extends HBox {
    private static final String ALL = "all parts";
    private static final double FORMAT_WIDTH = 118;
    private static final double LAYOUT_WIDTH = 156;
    private static final double LINE_UP_WIDTH = 84;

    private final OrderModel model;
    private final WorkLine work;
    private final SmallChoice<Integer> layout = new SmallChoice<>(
            List.of(0, 2, 4, 6, 8),
            channels -> switch (channels) {
                case 0 -> "a file a part";
                case 2 -> "music left, cues right";
                default -> channels + " channels a song";
            },
            "How songs are laid out",
            "A file a part with their sum; or one file a song, its parts on channels that are the same for all songs");
    private final ChoiceBox<String> lineUp = new ChoiceBox<>();
    private final SmallChoice<RenderFormat> format = new SmallChoice<>(
            List.of(RenderFormat.values()),
            RenderFormat::label,
            "Format of the files",
            "Format of the files; fixed-point formats get TPDF dither");
    private final SmallMenu parts =
            new SmallMenu("Line-up", "Keep a set of parts as a line-up, or take the chosen one away");
    private final Label where = new Label();
    private final Label told = new Label();
    private Path folder;

    DeliverBar(OrderModel model, WorkLine work) {
        super(8);
        this.model = model;
        this.work = work;
        getStyleClass().add("deliver-bar");
        setAlignment(Pos.CENTER_LEFT);
        folder = model.place().folder().resolve("delivered");
        layout.setValue(0);
        format.setValue(RenderFormat.WAV_24);
        format.setMinWidth(FORMAT_WIDTH);
        // The folder gives way, whose name is longest.
        layout.setMinWidth(LAYOUT_WIDTH);
        layout.setPrefWidth(LAYOUT_WIDTH);
        lineUp.setMinWidth(LINE_UP_WIDTH);
        lineUp.setPrefWidth(LINE_UP_WIDTH);
        lineUp.getStyleClass().add("small");
        lineUp.setConverter(new Words<>(name -> name.isEmpty() ? ALL : name));
        lineUp.setAccessibleText("Line-up: which parts are delivered");
        Hint.on(lineUp, "Which parts are delivered");
        where.getStyleClass().add("code");
        where.setMinWidth(0);
        told.setMinWidth(0);
        told.getStyleClass().add("muted");
        HBox.setHgrow(where, Priority.SOMETIMES);
        parts.setOnShowing(event -> offerParts());
        SmallButton choose = new SmallButton("Choose folder…", "Choose where the songs go");
        choose.setOnAction(event -> choose());
        SmallButton one = new SmallButton("Deliver this song", "Write the selected song");
        one.setOnAction(event -> model.selectedSong().ifPresent(song -> deliver(List.of(song.id()), false)));
        SmallButton all = new SmallButton(
                "Deliver all", "Write every song, those that changed since the last time, with a report (Ctrl+R)");
        all.getStyleClass().add("accent");
        all.setOnAction(event -> deliverAll());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Label name = new Label("Deliver");
        name.setMinWidth(USE_PREF_SIZE);
        Label into = new Label("into");
        into.setMinWidth(USE_PREF_SIZE);
        getChildren().addAll(name, layout, lineUp, parts, format, into, where, choose, told, gap, one, all);
        showFolder();
        show(model.order());
    }

    void deliverAll() {
        deliver(model.order().songs().stream().map(Song::id).toList(), true);
    }

    /** The parts to be kept together under a name, those of the chosen line-up marked. */
    private void offerParts() {
        List<String> in = model.order()
                .lineUp(String.valueOf(lineUp.getValue()))
                .map(LineUp::parts)
                .orElseGet(() -> model.levels().parts().stream().map(Part::name).toList());
        List<CheckMenuItem> marks = new ArrayList<>();
        for (Part part : model.levels().parts()) {
            CheckMenuItem mark = new CheckMenuItem(part.name());
            mark.setSelected(in.contains(part.name()));
            marks.add(mark);
        }
        MenuItem keep = new MenuItem("Keep these as…");
        keep.setOnAction(event -> keep(marks.stream()
                .filter(CheckMenuItem::isSelected)
                .map(CheckMenuItem::getText)
                .toList()));
        MenuItem away = new MenuItem("Take this line-up away");
        away.setDisable(String.valueOf(lineUp.getValue()).isEmpty());
        away.setOnAction(event -> {
            String name = lineUp.getValue();
            model.edit("Line-up taken away", order -> order.withoutLineUp(name));
        });
        parts.getItems().setAll(marks);
        parts.getItems().addAll(new SeparatorMenuItem(), keep, away);
    }

    private void keep(List<String> chosen) {
        TextInputDialog dialog = new TextInputDialog(lineUp.getValue());
        dialog.setHeaderText(null);
        dialog.setTitle("Line-up");
        dialog.setContentText("Name of the line-up of " + String.join(", ", chosen));
        dialog.initOwner(getScene().getWindow());
        dialog.showAndWait().map(String::strip).filter(name -> !name.isEmpty()).ifPresent(name -> keep(name, chosen));
    }

    void keep(String name, List<String> chosen) {
        model.edit("Line-up " + name, order -> order.with(new LineUp(name, chosen)));
        lineUp.setValue(name);
    }

    private void choose() {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle("Folder for the songs");
        File chosen = chooser.showDialog(getScene().getWindow());
        if (chosen != null) {
            folder = chosen.toPath();
            showFolder();
        }
    }

    private void showFolder() {
        where.setText(folder.toString());
        Hint.on(where, folder.toString());
    }

    void show(RunningOrder order) {
        List<String> names = new ArrayList<>(List.of(""));
        order.lineUps().forEach(one -> names.add(one.name()));
        if (!lineUp.getItems().equals(names)) {
            String before = lineUp.getValue();
            lineUp.getItems().setAll(names);
            lineUp.setValue(before != null && names.contains(before) ? before : "");
        }
    }

    private void deliver(List<SongId> songs, boolean all) {
        RunningOrder order = model.order();
        Optional<ChannelPlan> channels = layout.getValue() == 0
                ? Optional.empty()
                : Optional.of(ChannelPlan.of(layout.getValue(), model.levels().parts()));
        Optional<LineUp> parts = Optional.ofNullable(lineUp.getValue()).flatMap(order::lineUp);
        DeliveryRequest request = new DeliveryRequest(folder, format.getValue(), channels, parts, false);
        told.setText("");
        work.start(
                songs.size() == 1 ? "Delivering a song" : "Delivering " + songs.size() + " songs",
                progress -> {
                    List<DeliveredSong> done =
                            new Delivery(order, model.place(), request).deliver(songs, song -> {}, progress);
                    if (all) {
                        DeliveryReport.write(order, request, done);
                    }
                    return done;
                },
                this::tell);
    }

    /** What came of it. */
    private void tell(List<DeliveredSong> songs) {
        long whole = songs.stream().filter(DeliveredSong::holds).count();
        long upToDate = songs.stream().filter(DeliveredSong::upToDate).count();
        String failed = songs.stream()
                .filter(song -> !song.holds())
                .findFirst()
                .map(song -> " " + song.title() + ": " + song.proof())
                .orElse("");
        told.setText(whole + " of " + songs.size() + " whole, " + upToDate + " up to date." + failed);
        Hint.on(told, told.getText());
    }
}
