package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Knob;
import waterwheel.core.rack.Reamplifier;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;

/** A unit's own settings: what it expects, what stands before it, and where its knobs stand. */
final class UnitFields extends VBox {
    private final OutboardModel model;
    private final HBox naming = new HBox(8);
    private final HBox level = new HBox(8);
    private final HBox box = new HBox(8);
    private final HBox plug = new HBox(8);
    private final FlowPane knobs = new FlowPane(10, 3);
    private final List<Consumer<Unit>> updates = new ArrayList<>();
    private List<Object> shape = List.of();
    private @Nullable Unit unit;
    private boolean showing;

    UnitFields(OutboardModel model) {
        this.model = model;
        setSpacing(5);
        level.setAlignment(Pos.CENTER_LEFT);
        box.setAlignment(Pos.CENTER_LEFT);
        plug.setAlignment(Pos.CENTER_LEFT);
        naming.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(naming, level, box, knobs, plug);
    }

    /** Shows a unit; null for none. */
    void show(@Nullable Unit shown) {
        unit = shown;
        setVisible(shown != null);
        setManaged(shown != null);
        if (shown == null) {
            return;
        }
        List<Object> now = List.of(
                shown.id(),
                shown.reamplifier().isPresent(),
                shown.knobs().stream().map(Knob::name).toList());
        if (!now.equals(shape)) {
            shape = now;
            build(shown);
        }
        showing = true;
        updates.forEach(update -> update.accept(shown));
        showing = false;
    }

    private void edit(UnaryOperator<Unit> change, String gesture) {
        if (unit != null && !showing) {
            model.edit(unit, change, gesture);
        }
    }

    private void build(Unit shown) {
        updates.clear();
        SmallButton remove =
                new SmallButton("Remove unit", "Take this unit out of the rack; its loops stay, without it");
        remove.setOnAction(event -> {
            if (unit != null) {
                model.edit(RackEdits.removeUnit(unit));
            }
        });
        naming.getChildren()
                .setAll(
                        text(shown.id(), "Name", Unit::name, (u, name) -> name.isEmpty() ? u : u.withName(name)),
                        text(shown.id(), "Notes", Unit::notes, Unit::withNotes),
                        remove);
        level.getChildren().setAll(muted("Expects"), expects(), reamplified());
        box.getChildren().clear();
        box.setManaged(shown.reamplifier().isPresent());
        if (shown.reamplifier().isPresent()) {
            DbField pad = new DbField(
                    "By how much the re-amplifier turns down",
                    db -> box(box -> new Reamplifier(Math.clamp(db, 0, 60), box.groundLifted(), box.ohm())));
            pad.setPrefColumnCount(5);
            CheckBox lift = check("Ground lifted", "Cut the ground of the cable, against hum");
            lift.setOnAction(event -> box(box -> new Reamplifier(box.padDb(), lift.isSelected(), box.ohm())));
            updates.add(unit -> unit.reamplifier().ifPresent(box -> {
                pad.setValue(box.padDb());
                lift.setSelected(box.groundLifted());
            }));
            box.getChildren().setAll(muted("Turned down by"), pad, lift);
        }
        List<HBox> all = new ArrayList<>();
        for (int i = 0; i < shown.knobs().size(); i++) {
            all.add(knob(shown.knobs().get(i), i));
        }
        knobs.getChildren().setAll(all);
        if (shown.simulation().isEmpty()) {
            knobs.getChildren().add(new KnobMenu(knob -> edit(u -> u.withKnobs(with(u.knobs(), knob)), "")));
        }
        plug.getChildren().clear();
        plug.setManaged(!shown.simulation().isEmpty());
        if (!shown.simulation().isEmpty()) {
            ChoiceBox<Integer> output = port("Output", "The output of the simulated interface that feeds it");
            ChoiceBox<Integer> input = port("Input", "The input of the simulated interface that it feeds");
            output.setOnAction(event -> plug(output, input));
            input.setOnAction(event -> plug(output, input));
            updates.add(unit -> {
                Optional<Cable> cable = cable(unit);
                output.setValue(cable.map(Cable::output).orElse(0));
                input.setValue(cable.map(Cable::input).orElse(0));
            });
            plug.getChildren().setAll(muted("Plugged into"), output, input);
        }
    }

    private static List<Knob> with(List<Knob> knobs, Knob one) {
        List<Knob> all = new ArrayList<>(knobs);
        all.add(one);
        return all;
    }

    /** A line of text, which Enter or leaving it takes. */
    private TextField text(UnitId of, String name, Function<Unit, String> read, BiFunction<Unit, String, Unit> change) {
        TextField field = new TextField();
        field.setPromptText(name.toLowerCase(Locale.ROOT));
        field.getStyleClass().add("unit-text");
        field.setPrefColumnCount(9);
        HBox.setHgrow(field, Priority.ALWAYS);
        field.setAccessibleText(name + " of the unit");
        Hint.on(field, name + " of the unit; Enter takes it");
        Runnable take = () -> {
            Unit now = unit;
            if (now != null
                    && now.id().equals(of)
                    && !read.apply(now).equals(field.getText().strip())) {
                edit(u -> change.apply(u, field.getText().strip()), "");
            }
        };
        field.setOnAction(event -> take.run());
        field.focusedProperty().subscribe(focused -> {
            if (!focused) {
                take.run();
            }
        });
        updates.add(unit -> {
            if (!field.isFocused()) {
                field.setText(read.apply(unit));
            }
        });
        return field;
    }

    private Optional<Cable> cable(Unit of) {
        return model.session().rack().cables().stream()
                .filter(cable -> cable.unit().equals(Optional.of(of.id())))
                .findFirst();
    }

    private ChoiceBox<Integer> port(String side, String tip) {
        return new SmallChoice<>(
                IntStream.rangeClosed(0, SimulatedInterface.PORTS).boxed().toList(),
                port -> port == 0 ? "nothing" : side + " " + port,
                "Plugged into " + side.toLowerCase(Locale.ROOT),
                tip);
    }

    private void plug(ChoiceBox<Integer> output, ChoiceBox<Integer> input) {
        Integer from = output.getValue();
        Integer to = input.getValue();
        if (unit == null || showing || from == null || to == null) {
            return;
        }
        // The first of both that is chosen stands for both; nothing at one end is nothing at all.
        boolean first = cable(unit).isEmpty();
        model.edit(
                first ? RackEdits.plug(unit, Math.max(from, to), Math.max(from, to)) : RackEdits.plug(unit, from, to));
    }

    private ChoiceBox<Expectation> expects() {
        ChoiceBox<Expectation> expects = new SmallChoice<>(
                List.of(Expectation.values()),
                Expectation::label,
                "Expected level",
                "The level that its input is made for");
        expects.setOnAction(event -> {
            Expectation chosen = expects.getValue();
            if (chosen != null) {
                edit(u -> u.withExpects(chosen), "");
            }
        });
        updates.add(unit -> expects.setValue(unit.expects()));
        return expects;
    }

    private CheckBox reamplified() {
        CheckBox before = check("Re-amplifier", "Whether a box between the output and its input turns the level down");
        before.setOnAction(event -> edit(
                u -> u.withReamplifier(before.isSelected() ? Optional.of(Reamplifier.USUAL) : Optional.empty()), ""));
        updates.add(unit -> before.setSelected(unit.reamplifier().isPresent()));
        return before;
    }

    private void box(UnaryOperator<Reamplifier> change) {
        edit(u -> u.withReamplifier(u.reamplifier().map(change)), "");
    }

    private static CheckBox check(String name, String tip) {
        CheckBox box = new CheckBox(name);
        box.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(box, tip);
        return box;
    }

    private HBox knob(Knob knob, int place) {
        Label value = new Label();
        value.getStyleClass().add("figure");
        value.setMinWidth(58);
        double span = knob.most() - knob.least();
        Fader scale = new Fader(
                knob.name() + ", where it stands on the unit",
                Fader.Travel.even(knob.least(), knob.most(), span / 200),
                span / 50,
                knob.value(),
                (to, gesture) -> edit(u -> turned(u, place, to), gesture));
        scale.setPrefWidth(84);
        scale.setMinWidth(60);
        updates.add(unit -> {
            scale.show(unit.knobs().get(place).value());
            value.setText(text(unit.knobs().get(place)));
        });
        Label name = muted(knob.name());
        name.setMinWidth(54);
        HBox line = new HBox(4, name, scale, value);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Unit turned(Unit unit, int place, double to) {
        List<Knob> changed = new ArrayList<>(unit.knobs());
        Knob knob = changed.get(place);
        changed.set(place, knob.withValue(Math.clamp(to, knob.least(), knob.most())));
        return unit.withKnobs(changed);
    }

    private static String text(Knob knob) {
        int decimals = knob.most() - knob.least() >= 1_000 ? 0 : 1;
        return LevelText.signed(knob.value(), decimals, false) + (knob.unit().isEmpty() ? "" : " " + knob.unit());
    }

    private static Label muted(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(Region.USE_PREF_SIZE);
        Hint.wholeText(label);
        return label;
    }
}
