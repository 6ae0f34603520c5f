package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.ToDoubleFunction;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import javafx.geometry.Pos;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.captures.TimingRun;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.outboard.LoopAnswer;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Expectation;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.LoopTiming;
import waterwheel.core.rack.Unit;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.simulation.SimulatedUnits;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SamplesField;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.controls.ValueField;

/** The loop that is looked at: its settings, what its timing found, and what can be done with it. */
final class LoopDetail extends VBox {
    private static final double LABEL_WIDTH = 70;

    private final OutboardModel model;
    private final Label title = new Label();
    private final Label words = new Label();
    private final LoopPicture picture = new LoopPicture();
    private final FlowPane fields = new FlowPane(10, 4);
    private final UnitFields unitFields;
    private final List<Consumer<Insert>> updates = new ArrayList<>();
    private boolean showing;

    LoopDetail(OutboardModel model) {
        this.model = model;
        unitFields = new UnitFields(model);
        getStyleClass().add("loop-detail");
        title.getStyleClass().add("panel-title");
        title.setMinWidth(Region.USE_PREF_SIZE);
        words.setWrapText(true);
        words.setMinHeight(Region.USE_PREF_SIZE);
        SmallButton time =
                new SmallButton("Time", "Find out how late, how loud and with which polarity this loop comes back");
        time.setOnAction(event -> slot().ifPresent(slot -> model.time(List.of(slot))));
        SmallButton capture = new SmallButton("Capture", "Run the song through this loop and record what comes back");
        capture.setOnAction(event -> slot().ifPresent(slot -> model.capture(Set.of(slot))));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox heading = new HBox(8, title, gap, unitMenu(), time, capture);
        heading.setAlignment(Pos.CENTER_LEFT);
        build();
        HBox.setHgrow(picture, Priority.ALWAYS);
        VBox left = new VBox(6, fields, unitFields);
        left.setMinWidth(400);
        left.setMaxWidth(400);
        VBox right = new VBox(4, picture, words);
        HBox.setHgrow(right, Priority.ALWAYS);
        getChildren().addAll(heading, new HBox(14, left, right));
    }

    private Optional<HardwareSlot> slot() {
        return Optional.ofNullable(model.selectedProperty().get());
    }

    private void build() {
        ChoiceBox<Integer> output = ports("Output", "The output that this loop sends by");
        ChoiceBox<Integer> input = ports("Input", "The input that it comes back to");
        output.setOnAction(event -> patch(output, input));
        input.setOnAction(event -> patch(output, input));
        updates.add(insert -> {
            output.setValue(insert.processor().loop().sendPort());
            input.setValue(insert.processor().loop().returnPort());
        });
        add("Output", output);
        add("Input", input);
        field("Send gain", new DbField("Gain before the output", this::send), i -> i.inputDb());
        field(
                "Return gain",
                new DbField("Gain behind the input", db -> edit(i -> i.withOutputDb(Insert.OUTPUT.limited(db)))),
                i -> i.outputDb());
        field(
                "Mix",
                new ValueField(
                        "Mix: how much of what came back",
                        "%",
                        0,
                        5,
                        v -> edit(i -> i.withMix(Insert.MIX.limited(v / 100)))),
                i -> 100 * i.mix());
        field(
                "Offset",
                new SamplesField(
                        "Offset to the measured time",
                        () -> model.session().sampleRateHz(),
                        v -> edit(i -> i.withProcessor(i.processor().with("offsetFrames", v)))),
                i -> i.processor().value("offsetFrames"));
        choice("polarity");
        choice("alignment");
    }

    private void send(double db) {
        edit(i -> i.withInputDb(Insert.INPUT.limited(db)));
    }

    private void field(String name, ValueField field, ToDoubleFunction<Insert> value) {
        field.setPrefColumnCount(8);
        updates.add(insert -> field.setValue(value.applyAsDouble(insert)));
        add(name, field);
    }

    private static ChoiceBox<Integer> ports(String side, String tip) {
        return new SmallChoice<>(
                IntStream.rangeClosed(0, SimulatedInterface.PORTS).boxed().toList(),
                port -> port == 0 ? "none" : side + " " + port,
                side,
                tip);
    }

    private void patch(ChoiceBox<Integer> output, ChoiceBox<Integer> input) {
        Integer send = output.getValue();
        Integer back = input.getValue();
        if (!showing && send != null && back != null) {
            slot().ifPresent(slot -> model.patch(slot, send, back));
        }
    }

    private void choice(String key) {
        Parameter parameter = HardwareLoop.KIND.parameter(key);
        ChoiceBox<String> box = new SmallChoice<>(
                parameter.choices(), word -> word, parameter.name(), parameter.name() + " of what came back");
        box.setOnAction(event -> {
            int chosen = box.getSelectionModel().getSelectedIndex();
            if (!showing && chosen >= 0) {
                edit(i -> i.withProcessor(i.processor().with(key, chosen)));
            }
        });
        updates.add(insert -> box.getSelectionModel().select(insert.processor().choice(key)));
        add(parameter.name(), box);
    }

    private void add(String name, Region control) {
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        label.setMinWidth(LABEL_WIDTH);
        label.setMaxWidth(LABEL_WIDTH);
        Hint.wholeText(label);
        control.setPrefWidth(112);
        control.setMinWidth(112);
        HBox pair = new HBox(4, label, control);
        pair.setAlignment(Pos.CENTER_LEFT);
        fields.getChildren().add(pair);
    }

    private void edit(UnaryOperator<Insert> change) {
        slot().ifPresent(slot -> model.edit(slot, change));
    }

    /** What lies on the way: one of the rack, or one more. */
    private MenuButton unitMenu() {
        SmallMenu menu = new SmallMenu("Unit", "Tell which unit lies on the way, or put another one into the rack");
        menu.setAccessibleText("Unit on the way");
        menu.getItems().add(new MenuItem("\u2026"));
        menu.setOnShowing(event -> {
            List<MenuItem> items = new ArrayList<>();
            model.session()
                    .rack()
                    .units()
                    .forEach(unit -> items.add(item(
                            unit.name(),
                            slot -> model.edit(RackEdits.loop(
                                    model.session().channel(slot.channel()),
                                    slot.slot(),
                                    loop -> loop.withUnit(Optional.of(unit.id())))))));
            SimulatedUnits.names()
                    .forEach((key, name) -> items.add(item(
                            "New: " + name + " (simulated)",
                            slot -> model.add(slot, SimulatedUnits.unit(key, RackEdits.freeUnit(model.session()))))));
            items.add(item("New: a unit of your own", slot -> model.add(slot, own())));
            menu.getItems().setAll(items);
        });
        return menu;
    }

    private Unit own() {
        return new Unit(
                RackEdits.freeUnit(model.session()),
                "My unit",
                1,
                Expectation.LINE,
                Optional.empty(),
                List.of(),
                "",
                "");
    }

    private MenuItem item(String name, Consumer<HardwareSlot> does) {
        MenuItem item = new MenuItem(name);
        item.setMnemonicParsing(false);
        item.setOnAction(event -> slot().ifPresent(does));
        return item;
    }

    void show() {
        Optional<HardwareSlot> slot = slot().filter(model.slots()::contains);
        setVisible(slot.isPresent());
        setManaged(slot.isPresent());
        if (slot.isEmpty()) {
            return;
        }
        Insert insert = slot.get().insert(model.session());
        showing = true;
        updates.forEach(update -> update.accept(insert));
        showing = false;
        title.setText(slot.get().label(model.session()));
        TimingRun.@Nullable Found found = model.foundProperty().get().get(slot.get());
        picture.show(found != null && found.answer() instanceof LoopAnswer.Timed timed ? timed : null);
        words.setText(words(insert.processor().loop(), found));
        unitFields.show(insert.processor()
                .loop()
                .unit()
                .flatMap(model.session().rack()::unit)
                .orElse(null));
    }

    private static String words(Loop loop, TimingRun.@Nullable Found found) {
        if (found != null && !found.sentence().isEmpty()) {
            return found.sentence();
        }
        return loop.timing().map(LoopDetail::words).orElse("Not timed yet: nobody knows how late it comes back.");
    }

    private static String words(LoopTiming timing) {
        String hum = timing.humHz().isPresent()
                ? ", hums at " + Math.round(timing.humHz().orElse(0)) + " Hz with "
                        + LevelText.level(timing.humDbfs(), "dBFS")
                : ", does not hum";
        return LevelText.signed(timing.latencyFrames(), 2, false) + " samples late ("
                + LevelText.signed(1_000 * timing.latencyFrames() / timing.sampleRateHz(), 2, false) + " ms), "
                + (timing.inverted() ? "polarity inverted" : "polarity as it was") + ", gain "
                + LevelText.change(timing.gainDb()) + ", noise " + LevelText.level(timing.noiseDbfs(), "dBFS") + hum
                + "; stands out by " + LevelText.signed(timing.confidenceDb(), 0, false) + " dB. Timed on "
                + timing.device() + " at " + timing.sampleRateHz() + " Hz in blocks of " + timing.blockFrames() + ".";
    }
}
