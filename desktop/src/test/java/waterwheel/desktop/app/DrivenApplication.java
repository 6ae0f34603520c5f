package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import java.util.stream.Stream;
import javafx.event.EventType;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuBar;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ScrollBar;
import javafx.scene.input.MouseEvent;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.testfx.api.FxRobot;
import org.testfx.api.FxToolkit;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.work.Progress;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.testing.Mouse;

/**
 * The real application, drawn offscreen and driven with mouse and keys, open on the demo session. Making and measuring it
 * takes seconds, so it is started once for all tests, and each finds it as it arrived.
 */
@ExtendWith(DrivenApplication.Start.class)
@Timeout(value = 120, threadMode = Timeout.ThreadMode.SEPARATE_THREAD)
abstract class DrivenApplication {
    static final ChannelId LEAD = new ChannelId("lead-voice");

    private static @Nullable Desk opened;
    private static @Nullable Path root;

    final FxRobot robot = new FxRobot();
    /** A folder for all tests. */
    final Path shared = Objects.requireNonNull(root);
    /** The demo session's folder. */
    final Path folder = shared.resolve("demo");

    /** Starts the application before the first class of tests and ends it after the last. */
    static final class Start implements BeforeAllCallback, AutoCloseable {
        @Override
        public void beforeAll(ExtensionContext context) throws Exception {
            if (opened == null) {
                context.getRoot().getStore(ExtensionContext.Namespace.GLOBAL).put("application", this);
                start();
            }
        }

        private static void start() throws Exception {
            Path made = Files.createTempDirectory("waterwheel-application");
            root = made;
            DemoSession.writeIfMissing(made.resolve("demo"), Progress.NONE);
            withoutDearChain(made.resolve("demo"));
            FxToolkit.registerPrimaryStage();
            Stage stage = FxToolkit.registerStage(Stage::new);
            FxToolkit.setupFixture(() -> {
                opened = WaterwheelApp.show(stage, Settings.in(made.resolve("settings")));
                stage.toFront();
            });
        }

        /** What is worth freezing would be computed again for every edit of every test. */
        private static void withoutDearChain(Path demo) throws SessionFileException {
            Session session = SessionFolder.load(demo).session();
            for (Track track : session.tracks()) {
                if (track.name().equals("Harp")) {
                    session = session.withStrip(track.id(), strip -> strip.withInserts(List.of()));
                }
            }
            SessionFolder.save(session, demo);
        }

        @Override
        public void close() throws IOException, TimeoutException {
            FxToolkit.setupFixture(() -> Objects.requireNonNull(opened).leave());
            try (Stream<Path> files = Files.walk(Objects.requireNonNull(root))) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    @BeforeEach
    void begin_with_the_demo_as_it_arrived() throws Exception {
        robot.interact(() -> {
            SessionModel open = desk().model();
            if (open == null || !open.folder().equals(folder)) {
                openDemo();
            }
            while (model().historyProperty().get().undoName().isPresent()) {
                model().undo();
            }
            desk().save();
            model().select(model().session().mainId());
            model().transport().stop();
            desk().window().show(Step.STAGING);
        });
        awaitLevels();
    }

    void openDemo() {
        try {
            desk().openNow(folder);
        } catch (SessionFileException e) {
            throw new IllegalStateException(e);
        }
    }

    Desk desk() {
        return Objects.requireNonNull(opened);
    }

    SessionModel model() {
        return Objects.requireNonNull(desk().model());
    }

    /** Shows a view in one of the themes, with the lead voice selected. */
    void show(Step step, boolean light) {
        robot.interact(() -> {
            desk().setLight(light);
            desk().window().show(step);
            model().select(LEAD);
        });
    }

    /** All that is in the window, with its looks and places as they are drawn. Interface thread. */
    Parent laidOut() {
        Parent root = desk().window().getScene().getRoot();
        root.applyCss();
        root.layout();
        return root;
    }

    /** A node by what it lies in, for whoever has to find it. */
    static String where(Node node) {
        List<String> path = new ArrayList<>();
        for (@Nullable Node at = node; at != null && path.size() < 4; at = at.getParent()) {
            path.add(at.getClass().getSimpleName() + at.getStyleClass());
        }
        return String.join(" < ", path);
    }

    void until(BooleanSupplier condition) throws Exception {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(90);
        boolean[] met = {false};
        while (!met[0] && System.nanoTime() < end) {
            robot.interact(() -> met[0] = condition.getAsBoolean());
            if (!met[0]) {
                Thread.sleep(10);
            }
        }
        assertThat(met[0]).as("within 90 s").isTrue();
    }

    /** Whether a node is seen: it and all that it stands in. */
    static boolean visible(Node node) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
        }
        return true;
    }

    /** The first visible node of a kind that is as wanted. */
    <T extends Node> T shown(Class<T> kind, Predicate<T> wanted) {
        return robot.from(desk().window())
                .lookup((Node n) -> kind.isInstance(n) && visible(n) && wanted.test(kind.cast(n)))
                .queryAs(kind);
    }

    /** What is open under the view. */
    List<BottomPanel> panels() {
        return robot.lookup(node -> node instanceof BottomPanel && visible(node)).queryAllAs(BottomPanel.class).stream()
                .toList();
    }

    /** The visible nodes of a style class that have a name for screen readers. */
    List<Node> seen(String style) {
        return robot.from(desk().window()).lookup(style).queryAll().stream()
                .filter(n -> visible(n) && n.getAccessibleText() != null)
                .toList();
    }

    /** The first of them whose name begins with some words. */
    Node seen(String style, String words) {
        return seen(style).stream()
                .filter(n -> n.getAccessibleText().startsWith(words))
                .findFirst()
                .orElseThrow();
    }

    Node card(String words) {
        return seen(".flow-card", words);
    }

    Node lane(String channel) {
        return seen(".lane", channel + ",");
    }

    /** The events of a drag as a card gets them; the headless toolkit's own pointer does not hold on to what it pressed. */
    void drag(Node from, Node to) {
        Bounds start = from.localToScene(from.getBoundsInLocal());
        Bounds end = to.localToScene(to.getBoundsInLocal());
        robot.interact(() -> {
            fire(from, MouseEvent.MOUSE_PRESSED, start.getCenterX(), start.getCenterY());
            fire(from, MouseEvent.MOUSE_DRAGGED, end.getCenterX(), end.getCenterY());
            fire(from, MouseEvent.MOUSE_RELEASED, end.getCenterX(), end.getCenterY());
        });
    }

    static void fire(Node node, EventType<MouseEvent> type, double x, double y) {
        Mouse.fire(node, type, x, y);
    }

    Button button(String text) {
        return shown(Button.class, b -> b.getText().equals(text));
    }

    /** Opens a menu button and takes an item of it. */
    void choose(String menu, String item) {
        MenuButton button = shown(MenuButton.class, m -> m.getText().equals(menu));
        robot.interact(() -> {
            button.show();
            button.getItems().stream()
                    .filter(i -> is(item, String.valueOf(i.getText()).strip()))
                    .findFirst()
                    .orElseThrow()
                    .fire();
            button.hide();
        });
    }

    /** An item may say more behind a colon. */
    private static boolean is(String item, String text) {
        return text.equals(item) || text.startsWith(item + ":");
    }

    double headroom() {
        return model().levels().main().orElseThrow().headroomDb();
    }

    Node row(String channel) {
        return robot.from(desk().window())
                .lookup(".staging-row")
                .match(node -> ((Label) Objects.requireNonNull(node.lookup(".channel-name")))
                        .getText()
                        .startsWith(channel))
                .query();
    }

    double trim(ChannelId id) {
        return model().session().channel(id).strip().trimDb();
    }

    Stream<String> texts() {
        return robot.from(desk().window()).lookup((Node n) -> n instanceof Labeled && n.isVisible()).queryAll().stream()
                .map(n -> String.valueOf(((Labeled) n).getText()));
    }

    void awaitLevels() throws Exception {
        until(() -> model().levels().complete() && model().levels().session().equals(model().session()));
    }

    /** Every control that is seen and can be reached has a tooltip, and a name for screen readers. */
    void assertControlsAreNamed() {
        for (Node node : robot.from(desk().window())
                .lookup((Node n) -> n instanceof Control && visible(n))
                .queryAll()) {
            Control control = (Control) node;
            boolean used =
                    control.isFocusTraversable() && !(control instanceof ScrollBar) && !(control instanceof MenuBar);
            if (used) {
                assertThat(Hint.of(control)).as("tooltip of %s", control).isNotBlank();
                boolean named = control.getAccessibleText() != null || hasWords(control);
                assertThat(named).as("name of %s", control).isTrue();
            }
        }
    }

    private static boolean hasWords(Control control) {
        return control instanceof Labeled labeled
                && labeled.getText() != null
                && !labeled.getText().isBlank();
    }
}
