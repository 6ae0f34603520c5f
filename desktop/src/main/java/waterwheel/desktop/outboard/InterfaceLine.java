package waterwheel.desktop.outboard;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import javafx.geometry.Pos;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.ports.JavaSoundPort;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Rack;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.model.Transport;

/** By what audio goes in and out: the interface, how much at a time, how late that is, and where the mix is heard. */
final class InterfaceLine extends HBox {
    private static final List<Integer> BLOCKS = List.of(64, 128, 256, 512, 1_024);

    private final OutboardModel model;
    private final ChoiceBox<Driver> driver =
            new SmallChoice<>(List.of(Driver.values()), Driver::label, "Interface", "By what audio goes in and out");
    private final ChoiceBox<String> device = new SmallChoice<>(
            List.of(""),
            name -> name.isEmpty() ? "the usual one" : name,
            "Device",
            "Which of the system's sound devices");
    private final ChoiceBox<Integer> block = new SmallChoice<>(
            BLOCKS,
            frames -> frames + " samples",
            "Block",
            "How many samples go in and out at a time: fewer are heard sooner, and leave less time for each."
                    + " Loops have to be timed anew.");
    private final ChoiceBox<Integer> monitor = new SmallChoice<>(
            List.of(1),
            pair -> "outputs " + (2 * pair - 1) + "\u2013" + 2 * pair,
            "Monitor on",
            "The pair of outputs that the mix is heard on");
    private final Label late = new Label();
    private List<String> devices = JavaSoundPort.devices();
    private boolean showing;

    InterfaceLine(OutboardModel model) {
        super(6);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        driver.setMinWidth(142);
        device.setMaxWidth(130);
        driver.setOnAction(event -> edit(driver, chosen -> rack -> rack.withDriver(chosen)));
        device.setOnAction(event ->
                edit(device, chosen -> rack -> rack.withDevice(rack.device().withName(chosen))));
        // One that was plugged in since is offered too.
        device.setOnShowing(event -> {
            devices = JavaSoundPort.devices();
            showing = true;
            offer(device, named(device.getValue()), device.getValue());
            showing = false;
        });
        block.setOnAction(event ->
                edit(block, chosen -> rack -> rack.withDevice(rack.device().withBlockFrames(chosen))));
        monitor.setMinWidth(104);
        monitor.setOnAction(event -> edit(monitor, chosen -> rack -> rack.withMonitorPair(chosen)));
        late.getStyleClass().add("muted");
        late.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(
                late,
                "How much later something comes in than it went out, as far as the interface tells;"
                        + " recordings are put back by it");
        Label on = new Label("Monitor on");
        on.setMinWidth(Region.USE_PREF_SIZE);
        getChildren().addAll(driver, device, block, late, on, monitor);
    }

    private interface Change<T> {
        UnaryOperator<Rack> to(T chosen);
    }

    private <T> void edit(ChoiceBox<T> box, Change<T> change) {
        T chosen = box.getValue();
        if (!showing && chosen != null) {
            model.edit(RackEdits.rack(box.getAccessibleText(), change.to(chosen)));
        }
    }

    void show(Transport.Interface open) {
        Rack rack = model.session().rack();
        showing = true;
        driver.setValue(rack.driver());
        String chosen = rack.device().name();
        boolean choice = rack.driver() == Driver.SYSTEM && !(devices.isEmpty() && chosen.isEmpty());
        device.setVisible(choice);
        device.setManaged(choice);
        offer(device, named(chosen), chosen);
        TreeSet<Integer> blocks = new TreeSet<>(BLOCKS);
        blocks.add(rack.blockFrames());
        offer(block, List.copyOf(blocks), rack.blockFrames());
        int pairs = Math.max(rack.monitorPair(), Math.max(1, open.outputs() / 2));
        offer(monitor, IntStream.rangeClosed(1, pairs).boxed().toList(), rack.monitorPair());
        late.setText(
                open.roundTripFrames() == 0
                        ? ""
                        : LevelText.signed(
                                        1_000.0
                                                * open.roundTripFrames()
                                                / model.session().sampleRateHz(),
                                        1,
                                        false) + " ms in and out");
        showing = false;
    }

    /** The usual device, those that are there, and the chosen one even if it is not. */
    private List<String> named(String chosen) {
        List<String> names = new ArrayList<>(devices);
        names.addFirst("");
        if (!names.contains(chosen)) {
            names.add(chosen);
        }
        return names;
    }

    private static <T> void offer(ChoiceBox<T> box, List<T> items, T chosen) {
        if (!box.getItems().equals(items)) {
            box.getItems().setAll(items);
        }
        box.setValue(chosen);
    }
}
