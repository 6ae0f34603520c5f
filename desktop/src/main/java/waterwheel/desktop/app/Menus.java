package waterwheel.desktop.app;

import java.util.List;
import java.util.Optional;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuBar;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.KeyCombination;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.History;
import waterwheel.desktop.frame.FindAnything;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.guide.KeysPage;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.order.OrderModel;

/** The menus: everything that has a key can be found here by its name. */
final class Menus extends MenuBar {
    private final Desk desk;
    private final MenuItem save;
    private final MenuItem saveAs;
    private final MenuItem close;
    private final MenuItem undo;
    private final MenuItem redo;
    private final Menu song = new Menu("_Song");
    private final Menu view = new Menu("_View");
    private final MenuItem closeOrder;
    /** To the running order whose steps are named. */
    private Subscription order = Subscription.EMPTY;

    private final MainWindow window;

    Menus(Desk desk, MainWindow window) {
        this.desk = desk;
        this.window = window;
        save = item("_Save", "Shortcut+S", desk::save);
        saveAs = item("Save _as…", "Shortcut+Shift+S", desk::chooseAndSaveAs);
        close = item("_Close session", "Shortcut+W", desk::closeSession);
        Menu session = new Menu("S_ession");
        session.getItems()
                .addAll(
                        item("_New from files…", "Shortcut+N", desk::chooseFilesForNew),
                        item("New from a _folder…", "Shortcut+Shift+N", desk::chooseFolderForNew),
                        item("_Open…", "Shortcut+O", desk::chooseAndOpen),
                        item("Open the _demo session", null, desk::demo),
                        new SeparatorMenuItem(),
                        save,
                        saveAs,
                        close,
                        new SeparatorMenuItem(),
                        item("_Quit", "Shortcut+Q", desk::quit));
        undo = item("_Undo", "Shortcut+Z", () -> withSeen(SessionModel::undo, OrderModel::undo));
        redo = item("_Redo", "Shortcut+Shift+Z", () -> withSeen(SessionModel::redo, OrderModel::redo));
        closeOrder = item("_Close running order", null, () -> window.orders().close());
        Menu order = new Menu("_Running order");
        order.getItems()
                .addAll(
                        item("_New…", null, () -> window.orders().chooseNew()),
                        item("_Open…", "Shortcut+Shift+O", () -> window.orders().chooseAndOpen()),
                        item("Open the _demo's", null, () -> window.orders().demo()),
                        closeOrder,
                        new SeparatorMenuItem(),
                        item(
                                "Song _before",
                                "Shortcut+Alt+Up",
                                () -> withOrder(o -> o.listening().step(-1))),
                        item(
                                "_Next song",
                                "Shortcut+Alt+Down",
                                () -> withOrder(o -> o.listening().step(1))));
        Menu edit = new Menu("_Edit");
        edit.getItems()
                .addAll(
                        undo,
                        redo,
                        new SeparatorMenuItem(),
                        item(
                                "Select all _tracks",
                                "Shortcut+Shift+A",
                                () -> withSession(SessionModel::selectAllTracks)),
                        item("_Propose gains", "Shortcut+T", window::proposeTrims),
                        item("_Accept proposed gains", "Shortcut+Enter", window::acceptProposals),
                        item("Hand _faders to trims", "Shortcut+Shift+T", () -> withSession(Menus::faderToTrim)),
                        new SeparatorMenuItem(),
                        item("End all _solos", "Shortcut+Alt+S", this::endSolos));
        song.getItems()
                .addAll(
                        item(
                                "_Play or stop (Space)",
                                null,
                                () -> withSeen(m -> m.transport().playOrStop(), o -> o.listening()
                                        .playOrStop())),
                        item(
                                "R_ecord or stop",
                                "Shortcut+Shift+R",
                                () -> withSession(m -> m.recordings().recordOrStop())),
                        item(
                                "To the _beginning",
                                "Shortcut+Home",
                                () -> withSession(m -> m.transport().seek(0))),
                        item("_Render stems and mix", "Shortcut+R", window::render));
        int number = 1;
        for (Step step : Step.values()) {
            view.getItems().add(item(step.label(), "Shortcut+" + number++, () -> window.show(step)));
        }
        view.getItems()
                .addAll(
                        new SeparatorMenuItem(),
                        item("_Findings", "Shortcut+F", window::toggleFindings),
                        item("_Clips of the track", "Shortcut+E", window::toggleClips),
                        item("_Meters of the selection", "Shortcut+M", window::toggleMeters),
                        item("C_ontrollers", "Shortcut+K", window::toggleControllers),
                        item("Mixed _alike", "Shortcut+Shift+L", window::toggleAlike),
                        item("_Load", "Shortcut+L", window::toggleLoad),
                        item("_Prints and what is parked", "Shortcut+P", window::togglePrints),
                        item("_Name the channel", "F3", () -> withSession(SessionModel::nameSelected)),
                        item("Channel _above", "Alt+Up", () -> withSession(m -> m.selectNeighbour(-1))),
                        item("Channel _below", "Alt+Down", () -> withSession(m -> m.selectNeighbour(1))));
        CheckMenuItem light = new CheckMenuItem("_Light theme");
        light.setSelected(desk.settings().light());
        light.setOnAction(event -> desk.setLight(light.isSelected()));
        Menu look = new Menu("_Look");
        look.getItems().addAll(light, new SeparatorMenuItem());
        ToggleGroup sizes = new ToggleGroup();
        for (int percent : Sized.PERCENT) {
            RadioMenuItem size = new RadioMenuItem("Text and controls at " + percent + " %");
            size.setToggleGroup(sizes);
            size.setSelected(desk.settings().percent() == percent);
            size.setOnAction(event -> desk.setPercent(percent));
            look.getItems().add(size);
        }
        look.getItems()
                .addAll(
                        new SeparatorMenuItem(),
                        item("_Guide", "F1", window::toggleGuide),
                        item("_Keys", "Shift+F1", window::showKeys),
                        item("Find _anything", "F2", window::toggleFind));
        getMenus().addAll(session, edit, song, view, order, look);
        showOrder(null);
    }

    private static MenuItem item(String name, @Nullable String key, Runnable action) {
        MenuItem item = new MenuItem(name);
        if (key != null) {
            item.setAccelerator(KeyCombination.valueOf(key));
        }
        item.setOnAction(event -> action.run());
        return item;
    }

    /** The keys of all menus, by menu. */
    List<KeysPage.Group> keys() {
        return getMenus().stream()
                .map(Menus::keys)
                .filter(g -> !g.keys().isEmpty())
                .toList();
    }

    private static KeysPage.Group keys(Menu menu) {
        return new KeysPage.Group(
                plain(menu),
                menu.getItems().stream()
                        .filter(i -> i.getAccelerator() != null)
                        .map(i -> new KeysPage.Key(i.getAccelerator().getDisplayText(), plain(i)))
                        .toList());
    }

    /** All that can be chosen now, by menu and name. */
    List<FindAnything.Thing> commands() {
        return getMenus().stream()
                .filter(menu -> !menu.isDisable())
                .flatMap(menu -> menu.getItems().stream()
                        .filter(item -> item.getOnAction() != null && !item.isDisable())
                        .map(item -> new FindAnything.Thing(
                                "command", plain(item) + " (" + plain(menu) + ")", key(item), item::fire)))
                .toList();
    }

    private static String key(MenuItem item) {
        return item.getAccelerator() == null ? "" : item.getAccelerator().getDisplayText();
    }

    /** The name without the mark of its mnemonic. */
    private static String plain(MenuItem item) {
        return item.getText().replace("_", "").strip();
    }

    /** Work on a session that may not be there. */
    private interface SessionWork {
        void run(SessionModel model);
    }

    private void withSession(SessionWork action) {
        SessionModel model = desk.model();
        if (model != null) {
            action.run(model);
        }
    }

    /** Work on a running order that may not be there. */
    private interface OrderWork {
        void run(OrderModel model);
    }

    private void withOrder(OrderWork action) {
        OrderModel model = window.orders().model();
        if (model != null) {
            action.run(model);
        }
    }

    /** Work on what is seen: the running order, or the session. */
    private void withSeen(SessionWork onSession, OrderWork onOrder) {
        if (window.orderIsSeen()) {
            withOrder(onOrder);
        } else {
            withSession(onSession);
        }
    }

    private static void faderToTrim(SessionModel model) {
        model.edit(Edits.faderToTrim(model.selection()));
        model.tell(
                "The mix stays the same. What is inserted between trim and fader now gets the signal at the level that"
                        + " the fader gave it before.");
    }

    private void endSolos() {
        withSession(model -> model.edit(Edits.clearSolos()));
    }

    /** Offers what can be done with a session, or with none. */
    void showSession(@Nullable SessionModel model) {
        boolean none = model == null;
        saveAs.setDisable(none);
        close.setDisable(none);
        view.setDisable(none);
        if (model != null) {
            model.keep(model.historyProperty().subscribe(history -> showUndo()));
        }
        showUndo();
    }

    /** Offers what can be done with a running order, or with none. */
    void showOrder(@Nullable OrderModel model) {
        closeOrder.setDisable(model == null);
        order.unsubscribe();
        order = model == null ? Subscription.EMPTY : model.historyProperty().subscribe(history -> showUndo());
        showUndo();
    }

    /** Names what undo and redo would do to what is seen. */
    void showUndo() {
        OrderModel order = seenOrder();
        SessionModel model = desk.model();
        History<?> history = order != null
                ? order.historyProperty().get()
                : model != null ? model.historyProperty().get() : null;
        save.setDisable(history == null);
        song.setDisable(history == null);
        Optional<String> undone = history == null ? Optional.empty() : history.undoName();
        Optional<String> redone = history == null ? Optional.empty() : history.redoName();
        undo.setDisable(undone.isEmpty());
        undo.setText("_Undo " + undone.orElse(""));
        redo.setDisable(redone.isEmpty());
        redo.setText("_Redo " + redone.orElse(""));
    }

    private @Nullable OrderModel seenOrder() {
        return window.orderIsSeen() ? window.orders().model() : null;
    }
}
