package waterwheel.desktop.outboard;

import java.util.Locale;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import waterwheel.core.rack.Knob;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;

/** Adds a knob to a unit of one's own: its name, and the scale that is printed around it. */
final class KnobMenu extends SmallMenu {
    private final TextField name = field("Name", 8);
    private final TextField least = field("From", 4);
    private final TextField most = field("To", 4);
    private final TextField unit = field("Unit", 4);
    private final Label wrong = new Label();

    KnobMenu(Consumer<Knob> add) {
        super("Add knob", "Add a knob of this unit, to note where it stands");
        SmallButton done = new SmallButton("Add", "Add this knob; it stands at the beginning of its scale");
        wrong.getStyleClass().add("muted");
        HBox line = new HBox(6, name, least, new Label("to"), most, unit, done);
        line.setAlignment(Pos.CENTER_LEFT);
        CustomMenuItem item = new CustomMenuItem(new VBox(4, line, wrong), false);
        getItems().setAll(item);
        setOnShown(event -> {
            wrong.setText("");
            name.requestFocus();
        });
        Runnable take = () -> take(add);
        done.setOnAction(event -> take.run());
        unit.setOnAction(event -> take.run());
    }

    private static TextField field(String name, int columns) {
        TextField field = new TextField();
        field.setPromptText(name.toLowerCase(Locale.ROOT));
        field.setPrefColumnCount(columns);
        field.setAccessibleText("Knob: " + name.toLowerCase(Locale.ROOT));
        Hint.on(field, name + " of the knob's scale, as printed on the unit");
        return field;
    }

    private void take(Consumer<Knob> add) {
        OptionalDouble from = LevelText.parse(least.getText());
        OptionalDouble to = LevelText.parse(most.getText());
        if (name.getText().isBlank()) {
            wrong.setText("Give the knob a name.");
        } else if (from.isEmpty()
                || to.isEmpty()
                || !Double.isFinite(from.getAsDouble())
                || from.getAsDouble() >= to.getAsDouble()
                || Math.max(Math.abs(from.getAsDouble()), to.getAsDouble()) > Knob.MOST) {
            wrong.setText("Its scale needs two numbers, the smaller one first.");
        } else {
            add.accept(new Knob(
                    name.getText().strip(),
                    from.getAsDouble(),
                    to.getAsDouble(),
                    unit.getText().strip(),
                    from.getAsDouble()));
            name.clear();
            hide();
        }
    }
}
