package waterwheel.desktop.notes;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Subscription;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.model.SessionModel;

/** The selected instrument's notes as a list beside the song's time; what is done to them is done to those selected, or to all. */
public final class NotesPanel extends BottomPanel {
    private static final double HEIGHT = 200;

    /** Places that notes are moved to, in beats. */
    private enum Grid {
        BEAT("beats", 1),
        HALF("half beats", 0.5),
        THIRD("thirds of a beat", 1.0 / 3),
        QUARTER("quarter beats", 0.25);

        private final String label;
        private final double beats;

        Grid(String label, double beats) {
            this.label = label;
            this.beats = beats;
        }

        private String label() {
            return label;
        }
    }

    /** Makes an edit of some notes. */
    private interface NoteEdit {
        Edit of(Track track, Set<Integer> chosen);
    }

    private final SessionModel model;
    private final Label who = new Label();
    private final Label none = new Label();
    private final Label ruler = muted("");
    private final ToggleButton keys = new ToggleButton("Keys");
    private final ToggleButton record = new ToggleButton("Record keys");
    private final KeyRow row;
    private final SoundLine sound;
    private final ListView<NoteCell.Shown> list = new ListView<>();
    private final SmallChoice<Grid> grid =
            new SmallChoice<>(List.of(Grid.values()), Grid::label, "Grid", "Where notes are aligned to");

    public NotesPanel(SessionModel model) {
        this.model = model;
        sound = new SoundLine(model);
        row = new KeyRow(model.controllers().simulated());
        getStyleClass().add("load-panel");
        Label title = new Label("Notes");
        title.getStyleClass().add("panel-title");
        title.setMinWidth(USE_PREF_SIZE);
        who.getStyleClass().add("muted");
        who.setMinWidth(0);
        SmallButton close = new SmallButton("Close", "Put the notes away");
        close.setOnAction(event -> toggle());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        keys.getStyleClass().add("small");
        keys.setMinWidth(USE_PREF_SIZE);
        Hint.on(keys, "Play the instrument from a MIDI keyboard, or from the keys below");
        keys.setOnAction(event ->
                model.keys().play(keys.isSelected() ? model.selectedChannel().id() : null));
        record.getStyleClass().add("small");
        record.setMinWidth(USE_PREF_SIZE);
        Hint.on(record, "While the song plays, make notes of what the keyboard plays; one undo step");
        record.setOnAction(event -> {
            model.keys().recordingProperty().set(record.isSelected());
            if (record.isSelected() && !model.transport().playingProperty().get()) {
                model.transport().playOrStop();
            }
        });
        HBox first = new HBox(8, title, who, gap, keys, record, close);
        first.setAlignment(Pos.CENTER_LEFT);
        ValueField move = new ValueField("Move notes later", "ms", 1, 1, ms -> {
            if (ms != 0) {
                edit((track, chosen) -> NoteEdits.move(
                        track, chosen, Math.round(ms / 1_000 * model.session().sampleRateHz())));
            }
        });
        ValueField velocity = new ValueField("Scale velocities", "%", 0, 5, percent -> {
            if (percent != 100) {
                edit((track, chosen) -> NoteEdits.scaleVelocity(track, chosen, Math.max(0, percent) / 100));
            }
        });
        move.setValue(0);
        velocity.setValue(100);
        grid.setValue(Grid.QUARTER);
        HBox actions = new HBox(
                6,
                muted("Move by"),
                move,
                button("-12", "An octave down", (t, c) -> NoteEdits.transpose(t, c, -12)),
                button("-1", "A semitone down", (t, c) -> NoteEdits.transpose(t, c, -1)),
                button("+1", "A semitone up", (t, c) -> NoteEdits.transpose(t, c, 1)),
                button("+12", "An octave up", (t, c) -> NoteEdits.transpose(t, c, 12)),
                muted("Velocity"),
                velocity,
                button(
                        "Align to",
                        "Move the notes' starts to the nearest place of the grid",
                        (t, c) -> NoteEdits.align(t, c, grid.getValue().beats)),
                grid);
        actions.setAlignment(Pos.CENTER_LEFT);
        HBox heads = new HBox(
                8,
                head("time", NoteCell.TIME_WIDTH),
                head("beat", NoteCell.FIGURE_WIDTH),
                head("key", NoteCell.KEY_WIDTH),
                head("velocity", NoteCell.FIGURE_WIDTH),
                head("length", NoteCell.FIGURE_WIDTH),
                ruler);
        heads.getStyleClass().add("load-heads");
        list.setCellFactory(view -> new NoteCell());
        list.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        Hint.on(list, "Select notes to change only those; with none selected all are changed");
        list.setAccessibleText("Notes");
        list.setPlaceholder(none);
        list.setMinHeight(HEIGHT);
        list.setPrefHeight(HEIGHT);
        getChildren().addAll(first, sound, row, actions, heads, list);
        escapesFrom(list);
    }

    private static Label muted(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(USE_PREF_SIZE);
        return label;
    }

    private static Label head(String text, double width) {
        return new ColumnLabel(text, width, Pos.CENTER_RIGHT);
    }

    private SmallButton button(String name, String tip, NoteEdit edit) {
        SmallButton button = new SmallButton(name.replace('-', '\u2212'), tip);
        button.setAccessibleText(tip);
        button.setOnAction(event -> edit(edit));
        return button;
    }

    private void edit(NoteEdit edit) {
        if (model.selectedChannel() instanceof Track track && track.played().isPresent()) {
            Set<Integer> chosen = Set.copyOf(list.getSelectionModel().getSelectedIndices());
            model.edit(edit.of(
                    track,
                    chosen.isEmpty()
                            ? IntStream.range(0, list.getItems().size()).boxed().collect(Collectors.toSet())
                            : chosen));
        }
    }

    @Override
    protected Subscription opened() {
        list.requestFocus();
        return Subscription.combine(
                model.selectedProperty().subscribe(id -> show()),
                model.historyProperty().subscribe(history -> show()),
                model.keys().trackProperty().subscribe(id -> showKeys()),
                model.keys().recordingProperty().subscribe(on -> showKeys()));
    }

    @Override
    protected void putAway() {
        model.keys().play(null);
    }

    private void showKeys() {
        ChannelId played = model.keys().trackProperty().get();
        boolean here = played != null && played.equals(model.selectedChannel().id());
        keys.setSelected(here);
        record.setDisable(!here);
        record.setSelected(model.keys().recordingProperty().get());
        row.setVisible(here);
        row.setManaged(here);
    }

    private void show() {
        showKeys();
        Session session = model.session();
        Feed.Played played =
                model.selectedChannel() instanceof Track track ? track.played().orElse(null) : null;
        sound.setVisible(played != null);
        sound.setManaged(played != null);
        if (played == null) {
            who.setText("of no instrument");
            none.setText("The selected channel plays no notes. Take a file of notes in under Intake.");
            list.getItems().clear();
            return;
        }
        Notes notes = played.notes();
        who.setText(model.selectedChannel().name() + ": " + played.instrument().name() + ", "
                + notes.notes().size() + " notes");
        none.setText("No notes.");
        sound.show(played.instrument());
        double song = (double) session.lengthFrames() / session.sampleRateHz();
        ruler.setText("place in the song, 0:00.0 to " + LevelText.time(song));
        List<Integer> chosen = List.copyOf(list.getSelectionModel().getSelectedIndices());
        list.getItems()
                .setAll(notes.notes().stream()
                        .map(note -> new NoteCell.Shown(
                                note, notes.tempo().beat(note.startFrames()), song, session.sampleRateHz()))
                        .toList());
        chosen.stream().filter(i -> i < list.getItems().size()).forEach(list.getSelectionModel()::select);
    }
}
