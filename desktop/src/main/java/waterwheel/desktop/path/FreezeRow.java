package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.inserts.Insert;
import waterwheel.core.load.Load;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Freeze;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Shares;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** Freezes the channel, with the others that are selected, up to a slot; says how it stands; and ends it. */
final class FreezeRow extends HBox {
    private final SessionModel model;
    private final WorkLine work;
    private final ShownChannel shown;
    private final SmallMenu freeze = new SmallMenu(
            "Freeze",
            "Render the channel up to a slot once, so that it costs nothing more while it plays;"
                    + " what lies before is locked. Where several are selected, each up to its last slot.");
    private final SmallButton unfreeze =
            new SmallButton("Unfreeze", "Compute the channel again; at once, and nothing is lost");
    private final SmallButton print = new SmallButton(
            "Print…", "Render the channel to a new track that stands in for it; it is parked and can come back");
    private final Label state = new Label();
    private final Label load = new Label();

    FreezeRow(SessionModel model, WorkLine work, ShownChannel shown, Runnable openPrints) {
        super(8);
        this.model = model;
        this.work = work;
        this.shown = shown;
        setAlignment(Pos.CENTER_LEFT);
        freeze.getItems().add(new MenuItem("\u2026"));
        freeze.setOnShowing(event -> freeze.getItems().setAll(items()));
        unfreeze.setOnAction(event -> {
            List<ChannelId> selected = selection();
            model.edit(new Edit(
                    selected.size() == 1 ? "Unfreeze " + channel().name() : "Unfreeze channels",
                    session -> FreezeLock.unfrozen(session, selected)));
        });
        print.setOnAction(event -> openPrints.run());
        state.getStyleClass().add("muted");
        state.setMinWidth(0);
        Hint.wholeText(state);
        load.getStyleClass().addAll("figure", "muted");
        load.setMinWidth(USE_PREF_SIZE);
        Hint.on(load, "What the whole channel takes of a block's time");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        getChildren().addAll(freeze, unfreeze, print, state, gap, load);
    }

    private Channel channel() {
        return shown.channel();
    }

    private List<ChannelId> selection() {
        Set<ChannelId> all =
                new LinkedHashSet<>(model.selection().stream().map(Channel::id).toList());
        all.add(shown.id());
        return List.copyOf(all);
    }

    private List<MenuItem> items() {
        List<MenuItem> items = new ArrayList<>();
        List<ChannelId> selected = selection();
        if (selected.size() > 1) {
            items.add(item(
                    "The " + selected.size() + " selected, each through its last slot",
                    selected.stream()
                            .map(one -> FreezeRun.Wanted.last(model.session().channel(one)))
                            .toList()));
        }
        for (Insert insert : channel().strip().inserts()) {
            items.add(item(
                    "Through " + insert.processor().kind().label(),
                    List.of(new FreezeRun.Wanted(shown.id(), Optional.of(insert.id())))));
        }
        items.add(item("Up to the trim", List.of(new FreezeRun.Wanted(shown.id(), Optional.empty()))));
        return items;
    }

    private MenuItem item(String name, List<FreezeRun.Wanted> wanted) {
        OptionalDouble saves = model.transport().loads().saving(model.session(), wanted);
        MenuItem item = new MenuItem(
                saves.isPresent() ? name + ": saves " + Shares.percent(saves.getAsDouble()) + " of a block" : name);
        item.setMnemonicParsing(false);
        item.setOnAction(event -> freeze(wanted));
        return item;
    }

    private void freeze(List<FreezeRun.Wanted> wanted) {
        Session asked = model.session();
        String name = wanted.size() == 1
                ? "Freeze " + asked.channel(wanted.getFirst().channel()).name()
                : "Freeze " + wanted.size() + " channels";
        work.start("Freezing", progress -> FreezeRun.run(asked, model.folder(), wanted, progress), rendered -> {
            model.transport().loads().freezing(asked, wanted);
            model.edit(new Edit(name, session -> FreezeRun.Rendered.into(session, rendered)));
        });
    }

    /** Shows what the channel takes, and what its freeze saves. */
    void showLoad(Channel channel, Load known) {
        OptionalDouble saved = model.transport().loads().saved(channel);
        load.setText(Shares.percent(known.of(channel).usual()) + " of a block"
                + (saved.isPresent() ? ", saved " + Shares.percent(saved.getAsDouble()) : ""));
    }

    void show(Channel channel) {
        print.setVisible(!shown.isMain());
        print.setManaged(print.isVisible());
        Optional<Freeze> frozen = channel.strip().freeze();
        unfreeze.setVisible(frozen.isPresent());
        unfreeze.setManaged(frozen.isPresent());
        state.setText(
                frozen.isEmpty()
                        ? ""
                        : model.levels().frozen().stream()
                                .filter(one -> one.channel().equals(channel.id()))
                                .findFirst()
                                .map(Freezes.Frozen::state)
                                .map(Freezes.State::label)
                                .orElse("frozen"));
    }
}
