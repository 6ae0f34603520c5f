package waterwheel.desktop.app;

import java.io.File;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import waterwheel.core.findings.Finding;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Track;
import waterwheel.desktop.alike.AlikePanel;
import waterwheel.desktop.blend.BlendView;
import waterwheel.desktop.clips.ClipsPanel;
import waterwheel.desktop.controllers.ControllersPanel;
import waterwheel.desktop.flow.FlowView;
import waterwheel.desktop.frame.FindAnything;
import waterwheel.desktop.frame.FindingsLine;
import waterwheel.desktop.frame.MessageLine;
import waterwheel.desktop.frame.PanLawPanel;
import waterwheel.desktop.frame.SongStrip;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.frame.StepRail;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.guide.Guide;
import waterwheel.desktop.guide.GuideSheet;
import waterwheel.desktop.guide.StepsInSight;
import waterwheel.desktop.inserts.InsertPanel;
import waterwheel.desktop.intake.IntakeView;
import waterwheel.desktop.load.LoadPanel;
import waterwheel.desktop.meters.MetersLine;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.notes.NotesPanel;
import waterwheel.desktop.order.OrderModel;
import waterwheel.desktop.order.OrderView;
import waterwheel.desktop.outboard.OutboardView;
import waterwheel.desktop.path.PathView;
import waterwheel.desktop.prints.PrintPanel;
import waterwheel.desktop.rides.RidesView;
import waterwheel.desktop.staging.StagingView;
import waterwheel.desktop.start.StartScreen;
import waterwheel.desktop.stems.StemsView;

/** The window's content: the fixed parts around the step's view, or the start screen. */
final class MainWindow extends BorderPane {
    private final MessageLine messages = new MessageLine();
    private final WorkLine work = new WorkLine(messages);
    private final VBox bottom = new VBox();
    private final Desk desk;
    private final OrderDesk orders;
    private final Menus menus;
    private final Map<Step, Node> views = new EnumMap<>(Step.class);
    private final StackPane center = new StackPane();
    private final StepsInSight followed = new StepsInSight();
    private Panels panels = new Panels();
    /** What lies over the view: the guide, or the search. */
    private @Nullable Node overlay;

    private @Nullable StepRail rail;
    private @Nullable FindingsLine findings;
    private @Nullable SongStrip strip;
    private @Nullable PathView path;

    MainWindow(Desk desk, Stage stage) {
        this.desk = desk;
        orders = new OrderDesk(stage, messages, work, desk::orderShown, desk::open);
        getStyleClass().add("window");
        menus = new Menus(desk, this);
        setBottom(bottom);
        setOnDragOver(this::dragOver);
        setOnDragDropped(this::drop);
        setOnKeyPressed(event -> {
            SessionModel model = desk.model();
            if (event.getCode() == KeyCode.ESCAPE && overlay != null) {
                uncover();
                event.consume();
            }
            OrderModel order = orders.model();
            if (event.getCode() == KeyCode.SPACE && order != null && orderIsSeen()) {
                order.listening().playOrStop();
                event.consume();
            } else if (event.getCode() == KeyCode.SPACE && model != null) {
                model.transport().playOrStop();
                event.consume();
            }
        });
    }

    MessageLine messages() {
        return messages;
    }

    WorkLine work() {
        return work;
    }

    OrderDesk orders() {
        return orders;
    }

    void showStart() {
        panels.close();
        panels = new Panels();
        closeViews();
        rail = null;
        findings = null;
        setTop(menus);
        setLeft(null);
        setRight(null);
        overlay = null;
        center.getChildren().setAll(new StartScreen(desk.settings().recent(), desk));
        setCenter(center);
        bottom.getChildren().setAll(followed, work, messages);
        menus.showSession(null);
    }

    /** Shows the running order alone, where no session is open. */
    void showOrder() {
        showStart();
        center.getChildren().setAll(orders.node());
        orders.node().setVisible(true);
        menus.showUndo();
    }

    /** Whether what is seen is a running order. */
    boolean orderIsSeen() {
        Node node = orders.node();
        return orders.model() != null && center.getChildren().contains(node) && node.isVisible();
    }

    /** Another running order is open, or none. */
    void orderOpened() {
        menus.showOrder(orders.model());
    }

    void show(SessionModel model) {
        panels.close();
        panels = panels(model);
        closeViews();
        StepRail steps = new StepRail(model, this::show);
        FindingsLine line = new FindingsLine(model);
        rail = steps;
        findings = line;
        strip = new SongStrip(model, this::openLaw);
        setTop(new VBox(menus, strip));
        setLeft(steps);
        path = new PathView(model, work, this::toggleClips, this::openInsert, this::openPrints);
        setRight(path);
        overlay = null;
        center.getChildren().clear();
        center.setMinWidth(0);
        VBox middle = new VBox(center, panels);
        middle.setMinWidth(0);
        VBox.setVgrow(center, Priority.ALWAYS);
        center.setMinHeight(0);
        setCenter(middle);
        bottom.getChildren().setAll(followed, work, messages, line);
        menus.showSession(model);
        if (!model.session().assignments().isEmpty()) {
            model.controllers().look();
        }
        show(Step.STAGING);
    }

    private Panels panels(SessionModel model) {
        Panels offered = new Panels()
                .with(
                        PanLawPanel.class,
                        () -> new PanLawPanel(model, desk.settings()::ownPanLaw, desk.settings()::setOwnPanLaw))
                .with(InsertPanel.class, () -> new InsertPanel(model, work))
                .with(ClipsPanel.class, () -> new ClipsPanel(model))
                .with(NotesPanel.class, () -> new NotesPanel(model))
                .with(ControllersPanel.class, () -> new ControllersPanel(model))
                .with(LoadPanel.class, () -> new LoadPanel(model, work))
                .with(PrintPanel.class, () -> new PrintPanel(model, work))
                .with(AlikePanel.class, () -> new AlikePanel(model, () -> show(Step.FLOW)))
                .with(MetersLine.class, () -> new MetersLine(model));
        model.keep(model.transport().playingProperty().subscribe(playing -> {
            if (playing) {
                offered.find(MetersLine.class).ifPresent(MetersLine::open);
            }
        }));
        return offered;
    }

    private void openInsert(SlotId slot) {
        inserts().ifPresent(panel -> panel.open(slot));
    }

    private void openPrints() {
        panels.find(PrintPanel.class).ifPresent(PrintPanel::open);
    }

    private void openLaw(PanLaw law) {
        panels.find(PanLawPanel.class).ifPresent(panel -> panel.open(law));
    }

    /** Shows a step's view, which is made when it is first wanted. */
    void show(Step step) {
        StepRail steps = rail;
        SessionModel model = desk.model();
        if (steps == null || model == null) {
            return;
        }
        uncover();
        if (!views.containsKey(step)) {
            Node view = make(step, model);
            views.put(step, view);
            center.getChildren().add(view);
        }
        views.forEach((other, view) -> view.setVisible(other == step));
        // The song's own transport and the channel's path belong to the session.
        boolean order = step == Step.RUNNING_ORDER;
        setRight(order ? null : path);
        if (strip != null) {
            strip.setVisible(!order);
            strip.setManaged(!order);
        }
        steps.show(step);
        menus.showUndo();
    }

    private Node make(Step step, SessionModel model) {
        return switch (step) {
            case INTAKE -> new IntakeView(model, work);
            case STAGING -> new StagingView(model);
            case FLOW -> new FlowView(model);
            case OUTBOARD -> new OutboardView(model, work);
            case BLEND -> new BlendView(model);
            case RIDES -> new RidesView(model);
            case STEMS -> new StemsView(model, work);
            case RUNNING_ORDER -> orders.node();
        };
    }

    @Nullable
    Node view(Step step) {
        return views.get(step);
    }

    /** Files may be dropped on any view of a session; the start screen has its own place for them. */
    private void dragOver(DragEvent event) {
        if (desk.model() != null && !orderIsSeen() && event.getDragboard().hasFiles()) {
            event.acceptTransferModes(TransferMode.COPY);
            event.consume();
        }
    }

    private void drop(DragEvent event) {
        if (desk.model() != null && !orderIsSeen() && event.getDragboard().hasFiles()) {
            show(Step.INTAKE);
            if (views.get(Step.INTAKE) instanceof IntakeView intake) {
                intake.add(event.getDragboard().getFiles().stream()
                        .map(File::toPath)
                        .toList());
            }
            event.setDropCompleted(true);
            event.consume();
        }
    }

    /** Lays the guide over the view, or takes it away. */
    void toggleGuide() {
        if (!(uncover() instanceof GuideSheet)) {
            openGuide("");
        }
    }

    /** Lays the guide over the view, open at all keys. */
    void showKeys() {
        openGuide(GuideSheet.KEYS);
    }

    /** Lays the guide over the view, open at a chapter; one that is not there is as the first. */
    void openGuide(String chapter) {
        uncover();
        GuideSheet sheet = new GuideSheet(Guide.shipped(), menus.keys(), followed::show, this::uncover);
        cover(sheet);
        sheet.open(chapter);
    }

    /** Lays the search for everything over the view, or takes it away. */
    void toggleFind() {
        if (!(uncover() instanceof FindAnything)) {
            cover(new FindAnything(things(), this::uncover));
        }
    }

    private void cover(Node made) {
        overlay = made;
        center.getChildren().add(made);
        made.requestFocus();
    }

    /** Takes away what lies over the view, and returns it. */
    private @Nullable Node uncover() {
        Node lay = overlay;
        center.getChildren().remove(lay);
        overlay = null;
        return lay;
    }

    /** What can be found: commands and the guide's chapters, and of an open session its channels and findings. */
    private List<FindAnything.Thing> things() {
        List<FindAnything.Thing> things = new ArrayList<>();
        SessionModel model = desk.model();
        if (model != null) {
            model.session()
                    .channels()
                    .forEach(channel -> things.add(new FindAnything.Thing(
                            channel instanceof Track ? "track" : "bus",
                            channel.name(),
                            "",
                            () -> model.select(channel.id()))));
        }
        things.addAll(menus.commands());
        Guide.shipped()
                .chapters()
                .forEach(chapter -> things.add(
                        new FindAnything.Thing("guide", chapter.title(), "", () -> openGuide(chapter.title()))));
        if (model != null) {
            model.findingsProperty()
                    .get()
                    .forEach(finding -> things.add(new FindAnything.Thing(
                            "finding", finding.sentence(), "", () -> showFinding(model, finding))));
        }
        return things;
    }

    private void showFinding(SessionModel model, Finding finding) {
        show(Step.of(finding));
        model.select(finding.channel());
        finding.atSeconds().ifPresent(seconds -> model.transport().seek(seconds));
    }

    /** Views hear of a session as long as they are shown. */
    private void closeViews() {
        if (views.get(Step.RIDES) instanceof RidesView rides) {
            rides.close();
        }
        views.clear();
    }

    /** Shows the clips of the selected track under the view, or its notes; or puts them away. */
    void toggleClips() {
        SessionModel model = desk.model();
        boolean plays = model != null
                && model.selectedChannel() instanceof Track track
                && track.played().isPresent();
        panels.toggle(plays || panels.shows(NotesPanel.class) ? NotesPanel.class : ClipsPanel.class);
    }

    Optional<ClipsPanel> clips() {
        return panels.find(ClipsPanel.class);
    }

    Optional<InsertPanel> inserts() {
        return panels.find(InsertPanel.class);
    }

    /** Shows the controllers under the view, or puts them away. */
    void toggleControllers() {
        panels.toggle(ControllersPanel.class);
    }

    /** Shows what another session's flow would change under the view, or puts it away. */
    void toggleAlike() {
        panels.toggle(AlikePanel.class);
    }

    Optional<AlikePanel> alike() {
        return panels.find(AlikePanel.class);
    }

    /** Shows what everything takes of a block's time under the view, or puts it away. */
    void toggleLoad() {
        panels.toggle(LoadPanel.class);
    }

    /** Shows prints and what is parked under the view, or puts them away. */
    void togglePrints() {
        panels.toggle(PrintPanel.class);
    }

    void toggleMeters() {
        panels.toggle(MetersLine.class);
    }

    void toggleFindings() {
        if (findings != null) {
            findings.toggle();
        }
    }

    void proposeTrims() {
        OrderModel order = orders.model();
        if (order != null && orderIsSeen()) {
            order.propose();
            return;
        }
        show(Step.STAGING);
        if (views.get(Step.STAGING) instanceof StagingView staging) {
            staging.propose();
        }
    }

    void acceptProposals() {
        OrderModel order = orders.model();
        if (order != null && orderIsSeen()) {
            order.accept();
            return;
        }
        if (views.get(Step.STAGING) instanceof StagingView staging) {
            staging.acceptProposals();
        }
    }

    void render() {
        OrderView order = orders.view();
        if (order != null && orderIsSeen()) {
            order.deliver();
            return;
        }
        show(Step.STEMS);
        if (views.get(Step.STEMS) instanceof StemsView stems) {
            stems.render();
        }
    }
}
