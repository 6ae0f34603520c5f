package waterwheel.desktop.rides;

import java.io.File;
import java.nio.file.Path;
import javafx.scene.control.MenuItem;
import javafx.stage.FileChooser;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.store.RidesCsv;
import waterwheel.core.store.RidesCsvFile;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.model.SessionModel;

/** Curves out to a file of comma-separated values, and in from one: of all channels. */
final class RidesFiles extends SmallMenu {
    private final SessionModel model;

    RidesFiles(SessionModel model) {
        super(
                "Curves in a file",
                "Write the curves of all channels to comma-separated values, or read them from there");
        this.model = model;
        MenuItem out = new MenuItem("Write all curves…");
        out.setOnAction(event -> {
            File chosen = chooser("Write curves").showSaveDialog(getScene().getWindow());
            if (chosen != null) {
                write(chosen.toPath());
            }
        });
        MenuItem in = new MenuItem("Read curves…");
        in.setOnAction(event -> {
            File chosen = chooser("Read curves").showOpenDialog(getScene().getWindow());
            if (chosen != null) {
                read(chosen.toPath());
            }
        });
        getItems().addAll(out, in);
    }

    private static FileChooser chooser(String title) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle(title);
        chooser.setInitialFileName("curves.csv");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("Comma-separated values", "*.csv", "*.CSV"));
        return chooser;
    }

    /** Writes all curves of the session; the dialog has asked whether a file may be replaced. */
    void write(Path file) {
        try {
            RidesCsv.write(model.session(), model.folder(), file, true);
            model.tell("The curves are in " + file + ".");
        } catch (SessionFileException e) {
            model.tell(e.getMessage());
        }
    }

    /** Puts a file's curves in place of those that it names, in one step. */
    void read(Path file) {
        try {
            model.edit(RidesCsvFile.read(model.session(), file));
        } catch (SessionFileException e) {
            model.tell(e.getMessage());
        }
    }
}
