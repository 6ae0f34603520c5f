package waterwheel.desktop.intake;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import waterwheel.core.findings.Finding;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.AudioChooser;
import waterwheel.desktop.controls.ColourMark;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.controls.ScrollBarGap;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** A row per track with its file's waveform, facts and faults. */
public final class IntakeView extends VBox {
    private static final double ROW_HEIGHT = 34;

    private final SessionModel model;
    private final IntakeModel intake;
    private final RowList<ChannelId, IntakeRow> list;
    private final Label facts = new Label();
    private final Button add = new SmallButton("Add files…", "Take audio files in as new tracks");
    private final Button notes = new SmallButton("Notes\u2026", "Take a file of notes in as an instrument");
    private final Button replace = new SmallButton("Replace file…", "Give the selected track another file");
    private final Button join = new SmallButton("Join pairs", "Make stereo tracks of mono tracks named left and right");
    private final Button names =
            new SmallButton("Clean names", "Take off numbers, take marks and what all names begin with");
    private final Button kinds = new SmallButton(
            "Kinds", "Set sustained, percussive or cue as the names and the measured crest factors say");
    private final Button relink = new SmallButton("Find missing files…", "Look for missing files below a folder");

    public IntakeView(SessionModel model, WorkLine work) {
        this.model = model;
        intake = new IntakeModel(model, work);
        getStyleClass().addAll("view", "intake");
        ScrollPane scroll = new ScrollPane();
        list = new RowList<>(scroll, ROW_HEIGHT, this::made);
        list.getStyleClass().add("channels");
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        facts.getStyleClass().addAll("figure", "facts");
        facts.setWrapText(true);
        facts.setMinHeight(Region.USE_PREF_SIZE);
        getChildren().addAll(title(), actions(), header(new ScrollBarGap(scroll)), scroll, facts);
        add.setOnAction(event -> chooseFiles());
        notes.setOnAction(event -> chooseNotes());
        replace.setOnAction(event -> chooseReplacement());
        join.setOnAction(event -> intake.joinPairs());
        names.setOnAction(event -> intake.takeCleanNames());
        kinds.setOnAction(event -> intake.takeOtherKinds());
        relink.setOnAction(event -> chooseFolderOfMissing());
        visibleProperty().subscribe(visible -> update());
        model.keep(model.historyProperty().subscribe(history -> update()));
        model.keep(model.levelsProperty().subscribe(levels -> update()));
        model.keep(model.findingsProperty().subscribe(findings -> update()));
        model.keep(model.selectionProperty()
                .subscribe(selection -> list.made().forEach(row -> row.showSelected(selection))));
        model.keep(model.selectedProperty().subscribe(id -> {
            bringIntoSight(id);
            showFacts();
        }));
    }

    private static HBox title() {
        Label title = new Label("Intake");
        title.getStyleClass().add("view-title");
        Label hint = new Label("What came, and what is wrong with it. Drop files or a folder here to add tracks.");
        hint.getStyleClass().add("muted");
        HBox line = new HBox(12, title, hint);
        line.setAlignment(Pos.BASELINE_LEFT);
        return line;
    }

    private HBox actions() {
        HBox line = new HBox(8, add, notes, replace, join, names, kinds, relink);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("proposal-bar");
        return line;
    }

    private static HBox header(ScrollBarGap gap) {
        Region waveform = new Region();
        HBox.setHgrow(waveform, Priority.ALWAYS);
        HBox header = new HBox(
                new ColumnLabel("", ColourMark.WIDTH),
                new ColumnLabel("Name", IntakeRow.NAME_WIDTH),
                new ColumnLabel("Kind", IntakeRow.KIND_WIDTH),
                new ColumnLabel("Waveform", 80),
                waveform,
                new ColumnLabel("File", IntakeRow.FORMAT_WIDTH),
                new ColumnLabel("Level", IntakeRow.FIGURE_WIDTH));
        header.getStyleClass().add("staging-header");
        HBox.setHgrow(header, Priority.ALWAYS);
        return new HBox(header, gap);
    }

    /** A row that shows all there is to show now. */
    private IntakeRow made(ChannelId id) {
        IntakeRow row = new IntakeRow(model, (Track) model.session().channel(id));
        row.showSelected(model.selectionProperty().get());
        row.update(model.findingsProperty().get());
        return row;
    }

    private void bringIntoSight(ChannelId selected) {
        if (isVisible()) {
            list.bring(selected);
        }
    }

    private void update() {
        // A fader dragged in another view changes nothing here that anybody sees.
        if (!isVisible()) {
            return;
        }
        List<ChannelId> present =
                model.session().tracks().stream().map(Track::id).toList();
        if (!list.keys().equals(present)) {
            list.show(present.stream().map(RowList.Entry.Row::new).toList());
        }
        List<Finding> findings = model.findingsProperty().get();
        list.made().forEach(row -> row.update(findings));
        showFacts();
        int pairs = intake.pairs().size();
        join.setDisable(pairs == 0);
        join.setText(pairs == 0 ? "Join pairs" : pairs == 1 ? "Join 1 pair" : "Join " + pairs + " pairs");
        int unclean = intake.cleanNames().size();
        names.setDisable(unclean == 0);
        names.setText(unclean == 0 ? "Clean names" : unclean == 1 ? "Clean 1 name" : "Clean " + unclean + " names");
        Map<ChannelId, Track.Kind> other = intake.otherKinds();
        kinds.setDisable(other.isEmpty());
        kinds.setText(other.isEmpty() ? "Kinds" : other.size() == 1 ? "Set 1 kind" : "Set " + other.size() + " kinds");
        Hint.on(
                kinds,
                other.isEmpty()
                        ? "Every track has the kind that its name and its measured crest factor speak for"
                        : "What names and measured crest factors speak for: " + inWords(other));
        boolean missing = findings.stream().anyMatch(f -> f.rule() == Finding.Rule.MISSING_FILE);
        relink.setVisible(missing);
        relink.setManaged(missing);
    }

    /** All figures of the selected track's file, which its row has no room for. */
    private void showFacts() {
        Channel selected = model.selectedChannel();
        if (!isVisible() || !(selected instanceof Track track) || track.clips().isEmpty()) {
            facts.setText("");
            return;
        }
        AudioSource source = model.session().source(track.clips().getFirst().source());
        String figures = model.levels()
                .of(track.id())
                .map(known ->
                        IntakeRow.inWords(known.first(), model.levels().files().get(source.id())))
                .orElse("measuring…");
        facts.setText(source.fileName() + ", " + source.encoding() + ", " + source.sampleRateHz() + " Hz, "
                + LevelText.time((double) source.frames() / source.sampleRateHz()) + ": " + figures + ".");
    }

    private String inWords(Map<ChannelId, Track.Kind> other) {
        return other.entrySet().stream()
                .map(e -> model.session().channel(e.getKey()).name() + " "
                        + e.getValue().label())
                .collect(Collectors.joining(", "));
    }

    private void chooseFiles() {
        List<File> chosen = AudioChooser.titled("Audio files for new tracks")
                .showOpenMultipleDialog(getScene().getWindow());
        if (chosen != null) {
            intake.add(chosen.stream().map(File::toPath).toList());
        }
    }

    private void chooseNotes() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Files of notes");
        chooser.getExtensionFilters()
                .add(new FileChooser.ExtensionFilter("Files of notes", "*.mid", "*.midi", "*.MID", "*.MIDI"));
        List<File> chosen = chooser.showOpenMultipleDialog(getScene().getWindow());
        if (chosen != null) {
            intake.add(chosen.stream().map(File::toPath).toList());
        }
    }

    /** Takes files in as new tracks. */
    public void add(List<Path> files) {
        intake.add(files);
    }

    private void chooseReplacement() {
        if (!(model.selectedChannel() instanceof Track track)) {
            model.tell("Select the track that is to have another file.");
            return;
        }
        File chosen = AudioChooser.titled("Another file for " + track.name())
                .showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            intake.replace(track, chosen.toPath());
        }
    }

    private void chooseFolderOfMissing() {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle("Folder in which the missing files may be");
        File chosen = chooser.showDialog(getScene().getWindow());
        if (chosen != null) {
            intake.relink(chosen.toPath());
        }
    }
}
