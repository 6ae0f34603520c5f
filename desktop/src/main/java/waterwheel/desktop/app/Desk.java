package waterwheel.desktop.app;

import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import javafx.application.Platform;
import javafx.stage.DirectoryChooser;
import javafx.stage.Stage;
import org.jspecify.annotations.Nullable;
import waterwheel.core.demo.DemoSession;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.store.NewSession;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.UnsavedWork;
import waterwheel.core.work.Progress;
import waterwheel.desktop.controls.AudioChooser;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.model.Autosave;
import waterwheel.desktop.model.Messages;
import waterwheel.desktop.model.OutsideChanges;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.order.OrderModel;
import waterwheel.desktop.start.StartScreen;

/** What a user can do with sessions as wholes: make, open, save, close. Holds the one that is open. */
public final class Desk implements StartScreen.Wishes {
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm:ss");

    private final Stage stage;
    private final Settings settings;
    private final MainWindow window;
    private final Sized sized;
    private @Nullable SessionModel model;
    private @Nullable Autosave autosave;
    private @Nullable OutsideChanges outside;

    Desk(Stage stage, Settings settings) {
        this.stage = stage;
        this.settings = settings;
        this.window = new MainWindow(this, stage);
        sized = new Sized(window);
        stage.setTitle("Waterwheel");
        stage.setOnCloseRequest(event -> {
            event.consume();
            quit();
        });
    }

    /** All that the window shows, at its size. */
    Sized content() {
        return sized;
    }

    MainWindow window() {
        return window;
    }

    Settings settings() {
        return settings;
    }

    /** Running orders, of which one may be open beside the session. */
    OrderDesk orders() {
        return window.orders();
    }

    /** A running order was opened or closed. */
    void orderShown() {
        if (model == null) {
            stage.setTitle("Waterwheel");
            OrderModel order = orders().model();
            if (order != null) {
                stage.setTitle(order.order().title() + " · Waterwheel");
                window.showOrder();
            } else {
                window.showStart();
            }
        } else {
            window.show(Step.RUNNING_ORDER);
        }
        window.orderOpened();
    }

    @Nullable
    SessionModel model() {
        return model;
    }

    @Override
    public void open(Path folder) {
        if (mayLeave()) {
            window.work().start("Opening " + folder.getFileName(), progress -> SessionFolder.load(folder), loaded -> {
                show(loaded, folder);
            });
        }
    }

    /** Opens a session's folder or a running order's file at once, for starts that name one. */
    void openNow(Path named) throws SessionFileException {
        if (Files.isRegularFile(named)) {
            orders().openNow(named);
        } else {
            show(ReadAhead.take(named), named);
        }
    }

    private void show(SessionFolder.Loaded loaded, Path folder) {
        leaveSession();
        SessionModel opened = new SessionModel(loaded, folder, window.messages());
        model = opened;
        Autosave keeping = new Autosave(opened);
        autosave = keeping;
        outside = new OutsideChanges(opened);
        settings.addRecent(folder);
        window.show(opened);
        // All want the same processors, and the first picture goes first.
        NextPicture.then(() -> {
            opened.measure();
            opened.transport().prepare();
        });
        opened.keep(opened.unsavedProperty()
                .subscribe(unsaved ->
                        stage.setTitle(opened.session().title() + (unsaved ? " (not saved)" : "") + " · Waterwheel")));
        if (!loaded.unknownFields().isEmpty()) {
            window.messages()
                    .tell("The session holds something that this version does not know ("
                            + loaded.unknownFields().getFirst()
                            + "). Saving leaves it out here; the file as it is now stays among the earlier saves.");
        }
        settings.ownPanLaw().filter(own -> own != loaded.session().panLaw()).ifPresent(own -> window.messages()
                .tell("This session runs under the pan law "
                        + loaded.session().panLaw().label() + "; your own is " + own.label()
                        + ". The song strip shows what changing it would move."));
        UnsavedWork.find(folder, loaded.session()).ifPresent(found -> offer(found, opened, keeping));
    }

    /** Offers what a crash left. Taken up it is an edit like any other, and can be undone. */
    private void offer(UnsavedWork.Found found, SessionModel opened, Autosave keeping) {
        window.messages()
                .offer(
                        "This session was not closed the last time. Unsaved changes up to "
                                + CLOCK.format(found.keptAt().atZone(ZoneId.systemDefault()))
                                + (found.lastChange().isEmpty() ? "" : ", the last \"" + found.lastChange() + "\",")
                                + " are still here; what came in the few seconds after that is gone.",
                        new Messages.Choice("Take them up", "Put the unsaved changes back; undo takes them off", () -> {
                            keeping.answered();
                            opened.edit(new Edit("Unsaved changes", session -> found.session()));
                        }),
                        new Messages.Choice("Drop them", "Go on with the session as it was saved", keeping::answered));
    }

    @Override
    public void chooseAndOpen() {
        chosenFolder("Open a session's folder").ifPresent(this::open);
    }

    private Optional<Path> chosenFolder(String title) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        return Optional.ofNullable(chooser.showDialog(stage)).map(File::toPath);
    }

    @Override
    public void chooseFilesForNew() {
        List<File> chosen = AudioChooser.titled("Audio files for a new session").showOpenMultipleDialog(stage);
        if (chosen != null) {
            newFrom(chosen.stream().map(File::toPath).toList());
        }
    }

    void chooseFolderForNew() {
        chosenFolder("Folder of audio files for a new session").ifPresent(folder -> newFrom(List.of(folder)));
    }

    @Override
    public void newFrom(List<Path> files) {
        if (files.isEmpty() || !mayLeave()) {
            return;
        }
        Path first = files.getFirst().toAbsolutePath();
        Path named = Files.isDirectory(first) ? first : first.getParent();
        Path target = freeFolder(String.valueOf(named == null ? "Session" : named.getFileName()));
        window.work()
                .start(
                        "Taking files in",
                        progress -> NewSession.make(target, files, NewSession.Options.DEFAULT, progress),
                        made -> {
                            show(made.loaded(), target);
                            window.show(Step.INTAKE);
                            window.messages().tell(madeInWords(made, target));
                        });
    }

    private static String madeInWords(NewSession.Made made, Path target) {
        String taken = made.session().tracks().size() + " files became the session " + target + ".";
        if (made.refused().isEmpty()) {
            return taken;
        }
        return taken + " " + made.refused().size() + " could not be taken: "
                + made.refused().getFirst().getMessage();
    }

    /** Where sessions and running orders are made unless another place is chosen. */
    static Path sessions() {
        return Path.of(System.getProperty("user.home"), "Waterwheel");
    }

    private static Path freeFolder(String name) {
        Path folder = sessions().resolve(name);
        for (int i = 2; Files.exists(folder); i++) {
            folder = sessions().resolve(name + " " + i);
        }
        return folder;
    }

    @Override
    public void demo() {
        if (!mayLeave()) {
            return;
        }
        Path folder = sessions().resolve("Weir House Band");
        window.work().start("Playing the demo song", progress -> writtenDemo(folder, progress), loaded -> {
            show(loaded, folder);
        });
    }

    @Override
    public void readGuide() {
        window.toggleGuide();
    }

    private static SessionFolder.Loaded writtenDemo(Path folder, Progress progress) throws WaterwheelException {
        DemoSession.writeIfMissing(folder, progress);
        return SessionFolder.load(folder);
    }

    void save() {
        if (window.orderIsSeen()) {
            orders().save();
            return;
        }
        saveSession();
    }

    private void saveSession() {
        if (model != null) {
            try {
                if (model.changedOutside()) {
                    model.offerOutside();
                    return;
                }
                if (autosave != null) {
                    autosave.beforeSaving();
                }
                model.save();
                window.messages().tell("Saved " + model.folder() + ".");
            } catch (SessionFileException e) {
                window.messages().tell(e.getMessage());
            }
        }
    }

    void chooseAndSaveAs() {
        SessionModel open = model;
        if (open == null) {
            return;
        }
        chosenFolder("Empty folder to save the session in").ifPresent(target -> {
            try {
                open.saveAs(target);
                settings.addRecent(target);
                window.messages().tell("Saved as " + target + ".");
            } catch (SessionFileException e) {
                window.messages().tell(e.getMessage());
            }
        });
    }

    void closeSession() {
        if (mayLeave()) {
            leaveSession();
            orderShown();
        }
    }

    void quit() {
        if (mayLeave() && orders().mayLeave()) {
            leave();
            Platform.exit();
        }
    }

    /** Ends session and running order without asking. */
    void leave() {
        orders().leave();
        leaveSession();
    }

    /** Ends the session without asking. */
    private void leaveSession() {
        if (outside != null) {
            outside.close();
            outside = null;
        }
        if (autosave != null) {
            autosave.close();
            autosave = null;
        }
        if (model != null) {
            model.close();
            model = null;
            window.messages().withdraw();
        }
    }

    void setLight(boolean light) {
        settings.setLight(light);
        look();
    }

    /** Shows text and controls at a size in percent. */
    void setPercent(int percent) {
        settings.setPercent(percent);
        look();
        if (sized.shownPercent() < percent) {
            window.messages()
                    .tell("There is room for " + sized.shownPercent() + " % in this window; " + percent
                            + " % wants one of " + Sized.widthFor(percent) + " x " + Sized.heightFor(percent)
                            + " pixels.");
        }
    }

    /** Shows all as the settings say. */
    void look() {
        Theme.apply(stage.getScene(), settings);
        sized.set(settings.percent());
    }

    /** Whether the open session may go; asks where work would be lost. */
    private boolean mayLeave() {
        SessionModel open = model;
        if (open == null || !open.unsavedProperty().get()) {
            return true;
        }
        return LeaveQuestion.mayLeave(stage, open.session().title(), this::saveSession, () -> open.unsavedProperty()
                .get());
    }
}
