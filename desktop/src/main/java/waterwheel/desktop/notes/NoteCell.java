package waterwheel.desktop.notes;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import org.jspecify.annotations.Nullable;
import waterwheel.core.notes.Note;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.SpanBar;

/** One note: where, which, how hard, how long; and its place in the song as a bar. */
final class NoteCell extends ListCell<NoteCell.Shown> {
    static final double TIME_WIDTH = 70;
    static final double KEY_WIDTH = 44;
    static final double FIGURE_WIDTH = 64;

    /**
     * A note and what it is shown against.
     *
     * @param beat how many beats pass before it
     * @param songSeconds how long the song is
     */
    record Shown(Note note, double beat, double songSeconds, int sampleRateHz) {
        double seconds() {
            return (double) note.startFrames() / sampleRateHz;
        }

        double length() {
            return (double) note.lengthFrames() / sampleRateHz;
        }
    }

    private final Label time = figure(TIME_WIDTH);
    private final Label beat = figure(FIGURE_WIDTH);
    private final Label key = figure(KEY_WIDTH);
    private final Label velocity = figure(FIGURE_WIDTH);
    private final Label length = figure(FIGURE_WIDTH);
    /** The song's time from left to right, with the note in its place. */
    private final SpanBar ruler = new SpanBar();

    private final HBox line = new HBox(8, time, beat, key, velocity, length, ruler);

    NoteCell() {
        HBox.setHgrow(ruler, Priority.ALWAYS);
        line.setAlignment(Pos.CENTER_LEFT);
        line.setMinWidth(0);
        setPrefWidth(0);
    }

    private static Label figure(double width) {
        Label label = new ColumnLabel("", width, Pos.CENTER_RIGHT);
        label.getStyleClass().add("figure");
        return label;
    }

    @Override
    protected void updateItem(@Nullable Shown shown, boolean none) {
        super.updateItem(shown, none);
        if (none || shown == null) {
            setGraphic(null);
            setAccessibleText("");
            return;
        }
        time.setText(LevelText.time(shown.seconds()));
        beat.setText(LevelText.signed(shown.beat() + 1, 2, false));
        key.setText(Note.name(shown.note().key()));
        velocity.setText(String.valueOf(shown.note().velocity()));
        length.setText(LevelText.signed(shown.length(), 2, false) + " s");
        double song = Math.max(shown.songSeconds(), 1e-9);
        ruler.show(shown.seconds() / song, (shown.seconds() + shown.length()) / song);
        setAccessibleText(
                key.getText() + " at " + time.getText() + ", velocity " + velocity.getText() + ", " + length.getText());
        setGraphic(line);
    }
}
