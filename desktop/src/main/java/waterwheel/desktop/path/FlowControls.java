package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Processors;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Vca;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.path.StageControls.Control;

/** The controls of what a channel's signal runs through and where it branches off: inserts and sends. */
final class FlowControls {
    private static final double NEW_SEND_DB = -12;

    private final SessionModel model;
    private final ShownChannel shown;
    private final Consumer<SlotId> openInsert;

    FlowControls(SessionModel model, ShownChannel shown, Consumer<SlotId> openInsert) {
        this.model = model;
        this.shown = shown;
        this.openInsert = openInsert;
    }

    private Channel channel() {
        return shown.channel();
    }

    /** @param place of the insert in the channel's way, counted from 0 */
    Control insert(int place) {
        Supplier<SlotId> slot = () -> shown.insert(place).id();
        ToggleButton bypass = new ToggleButton("Bypass");
        bypass.getStyleClass().addAll("small", "mute");
        bypass.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(bypass, "Let the signal pass by this insert");
        RideMark[] mark = new RideMark[1];
        bypass.setOnAction(event -> mark[0].move(bypass.isSelected() ? 1 : 0, ""));
        mark[0] = RideMark.on(bypass, model, () -> ControlId.ofInsert(shown.id(), slot.get(), Insert.BYPASSED.key()));
        SmallButton settings = new SmallButton("Settings", "Show this processor's settings under the view");
        settings.setOnAction(event -> openInsert.accept(slot.get()));
        SmallButton up = new SmallButton("Up", "Move this insert one place towards the source");
        up.setOnAction(event -> model.edit(FlowEdits.moveInsert(channel(), slot.get(), -1)));
        SmallButton down = new SmallButton("Down", "Move this insert one place towards the fader");
        down.setOnAction(event -> model.edit(FlowEdits.moveInsert(channel(), slot.get(), 1)));
        SmallButton remove = new SmallButton("Remove", "Take this insert out of the channel");
        remove.setOnAction(event -> model.edit(FlowEdits.removeInsert(channel(), slot.get())));
        return new Control(line(bypass, settings, up, down, remove), c -> {
            boolean bypassed = c.strip().inserts().get(place).bypassed();
            bypass.setSelected(mark[0].show(bypassed ? 1 : 0) >= 0.5);
        });
    }

    Control addInsert() {
        SmallMenu add = new SmallMenu("Add insert", "Put a processor at the end of the channel's inserts");
        for (ProcessorKind kind : Processors.kinds()) {
            MenuItem item = new MenuItem(kind.label());
            item.setOnAction(event -> {
                model.edit(FlowEdits.addInsert(channel(), kind));
                openInsert.accept(channel().strip().inserts().getLast().id());
            });
            add.getItems().add(item);
        }
        return new Control(line(add), c -> {});
    }

    Control send(int index) {
        Label target = new RowName();
        target.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(target, Priority.ALWAYS);
        RideMark[] mark = new RideMark[2];
        DbField level = new DbField("Level of the send", db -> mark[0].move(db, ""));
        mark[0] = RideMark.on(level, model, () -> ControlId.ofSend(shown.id(), index, Send.LEVEL.key()));
        level.setPrefColumnCount(5);
        ToggleButton pre = toggle("Pre", "Taken before the fader; otherwise after it");
        pre.setOnAction(event -> edit(index, s -> s.withPreFader(pre.isSelected())));
        ToggleButton on = toggle("On", "Whether anything is sent");
        on.setOnAction(event -> mark[1].move(on.isSelected() ? 1 : 0, ""));
        mark[1] = RideMark.on(on, model, () -> ControlId.ofSend(shown.id(), index, Send.ON.key()));
        SmallButton remove = new SmallButton("Remove", "Take this send away");
        remove.setOnAction(event -> model.edit(FlowEdits.removeSend(channel(), index)));
        return new Control(line(target, level, pre, on, remove), c -> {
            Send send = c.strip().sends().get(index);
            target.setText(name(send));
            level.setValue(mark[0].show(send.levelDb()));
            pre.setSelected(send.preFader());
            on.setSelected(mark[1].show(send.on() ? 1 : 0) >= 0.5);
        });
    }

    private void edit(int index, UnaryOperator<Send> change) {
        model.edit(FlowEdits.send(channel(), index, change));
    }

    private String name(Send send) {
        String to = model.session().channel(send.target().channel()).name();
        return send.target() instanceof Send.ToKey ? "Key of " + to : "To " + to;
    }

    /** What can be added to where the signal goes, and what moves the channel's fader beside its own. */
    Control branches() {
        SmallMenu groups = new SmallMenu("VCAs and links", "What moves this channel's controls beside their own");
        whenOpened(groups, items -> {
            model.session().vcas().forEach(vca -> offer(items, vca));
            model.session().links().forEach(link -> offer(items, link));
            if (items.isEmpty()) {
                MenuItem none = new MenuItem("There is no VCA and no link group; Blend makes them of a selection");
                none.setDisable(true);
                items.add(none);
            }
        });
        if (shown.isMain()) {
            return new Control(line(groups), c -> {});
        }
        return new Control(line(addSend(), alsoTo(), groups), c -> {});
    }

    private void offer(List<MenuItem> items, Vca vca) {
        // What is offered of a channel stays offered of that one.
        ChannelId id = shown.id();
        boolean member = vca.members().contains(id);
        CheckMenuItem under = check("Under " + vca.name(), member);
        under.setOnAction(event -> {
            try {
                model.edit(GroupEdits.vcaMember(model.session(), vca, id, !member));
            } catch (RoutingException e) {
                model.tell(e.getMessage());
            }
        });
        items.add(under);
        if (member) {
            boolean exempt = vca.exempt().contains(id);
            CheckMenuItem alone = check("   left alone by " + vca.name() + " for now", exempt);
            alone.setOnAction(event -> model.edit(GroupEdits.vcaExempt(vca, id, !exempt)));
            items.add(alone);
        }
    }

    private void offer(List<MenuItem> items, LinkGroup link) {
        ChannelId id = shown.id();
        boolean member = link.members().contains(id);
        CheckMenuItem in = check("Linked in " + link.name(), member);
        in.setOnAction(event -> model.edit(GroupEdits.linkMember(link, id, !member)));
        items.add(in);
        if (member) {
            boolean exempt = link.exempt().contains(id);
            CheckMenuItem alone = check("   left alone by " + link.name() + " for now", exempt);
            alone.setOnAction(event -> model.edit(GroupEdits.linkExempt(link, id, !exempt)));
            items.add(alone);
        }
    }

    private static CheckMenuItem check(String label, boolean selected) {
        CheckMenuItem item = new CheckMenuItem(label);
        item.setMnemonicParsing(false);
        item.setSelected(selected);
        return item;
    }

    /** Outputs at unity beside the first one. */
    private SmallMenu alsoTo() {
        SmallMenu also = new SmallMenu("Also to", "Further buses that this channel feeds at unity, beside its output");
        whenOpened(also, items -> {
            for (Bus bus : model.session().buses()) {
                boolean fed = channel().strip().extraOutputs().contains(bus.id());
                if (bus.id().equals(shown.id()) || channel().strip().output().equals(Output.to(bus.id()))) {
                    continue;
                }
                CheckMenuItem item = check(bus.name(), fed);
                try {
                    Edit edit = FlowEdits.extraOutput(model.session(), channel(), bus, !fed);
                    item.setOnAction(event -> model.edit(edit));
                } catch (RoutingException e) {
                    item.setText(bus.name() + " (would close a loop)");
                    item.setDisable(true);
                }
                items.add(item);
            }
        });
        return also;
    }

    /** A menu that is made anew each time it opens, because what it offers depends on the session. */
    private static void whenOpened(SmallMenu button, Consumer<List<MenuItem>> fill) {
        button.setOnShowing(event -> {
            List<MenuItem> items = new ArrayList<>();
            fill.accept(items);
            button.getItems().setAll(items);
        });
        button.getItems().add(new MenuItem("…"));
    }

    /** Offers what can be fed without closing a loop. */
    private SmallMenu addSend() {
        SmallMenu add = new SmallMenu("Add send", "Send the signal to a bus, or to what an insert listens to");
        whenOpened(add, items -> {
            for (Bus bus : model.session().buses()) {
                if (!bus.id().equals(shown.id())
                        && !bus.id().equals(model.session().mainId())) {
                    offer(items, "To " + bus.name(), Send.toBus(bus.id(), NEW_SEND_DB));
                }
            }
            for (Channel other : model.session().channels()) {
                for (Insert insert : other.strip().inserts()) {
                    if (insert.processor().kind().keyed() && !other.id().equals(shown.id())) {
                        offer(
                                items,
                                "Key of " + insert.processor().kind().label() + " on " + other.name(),
                                Send.toKey(other.id(), insert.id()));
                    }
                }
            }
            if (items.isEmpty()) {
                MenuItem none = new MenuItem("There is no bus beside the main bus, and no key input");
                none.setDisable(true);
                items.add(none);
            }
        });
        return add;
    }

    private void offer(List<MenuItem> items, String label, Send send) {
        MenuItem item = new MenuItem(label);
        item.setMnemonicParsing(false);
        try {
            Edit edit = FlowEdits.addSend(model.session(), channel(), send);
            item.setOnAction(event -> model.edit(edit));
        } catch (RoutingException e) {
            item.setText(label + " (would close a loop)");
            item.setDisable(true);
        }
        items.add(item);
    }

    private static ToggleButton toggle(String name, String tip) {
        ToggleButton button = new ToggleButton(name);
        button.getStyleClass().addAll("small", "solo");
        button.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(button, tip);
        button.setAccessibleText(name);
        return button;
    }

    private static HBox line(Node... nodes) {
        HBox line = new HBox(4, nodes);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }
}
