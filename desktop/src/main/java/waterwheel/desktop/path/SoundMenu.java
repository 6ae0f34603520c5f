package waterwheel.desktop.path;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.MenuItem;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.intake.InstrumentImport;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.SmallMenu;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** What plays a track's notes. */
final class SoundMenu extends SmallMenu {
    private final SessionModel model;
    private final WorkLine work;
    private final ShownChannel shown;

    SoundMenu(SessionModel model, WorkLine work, ShownChannel shown) {
        super("Sound", "Have another instrument play the notes");
        this.model = model;
        this.work = work;
        this.shown = shown;
        for (Instrument.Synth synth : List.of(Instrument.Synth.PLUCKED, Instrument.Synth.STRUCK)) {
            MenuItem item = new MenuItem(synth.name());
            item.setOnAction(event -> use(synth));
            getItems().add(item);
        }
        MenuItem map = new MenuItem("Samples by a map\u2026");
        map.setOnAction(event -> chooseMap());
        MenuItem folder = new MenuItem("A folder of samples named by notes\u2026");
        folder.setOnAction(event -> chooseFolder());
        getItems().addAll(map, folder);
    }

    private void use(Instrument instrument) {
        if (shown.channel() instanceof Track track) {
            model.edit(NoteEdits.instrument(track, instrument, List.of()));
        }
    }

    private void chooseMap() {
        ChannelId asking = shown.id();
        FileChooser chooser = new FileChooser();
        chooser.setTitle("A map of samples");
        chooser.getExtensionFilters().add(new FileChooser.ExtensionFilter("Maps of samples", "*.sfz", "*.SFZ"));
        File chosen = chooser.showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            take(asking, chosen.toPath());
        }
    }

    private void chooseFolder() {
        ChannelId asking = shown.id();
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle("A folder of samples named by notes");
        File chosen = chooser.showDialog(getScene().getWindow());
        if (chosen != null) {
            take(asking, chosen.toPath());
        }
    }

    private void take(ChannelId track, Path map) {
        Session asked = model.session();
        work.start(
                "Taking samples in", progress -> InstrumentImport.take(asked, model.folder(), map, progress), taken -> {
                    if (model.session().find(track).orElse(null) instanceof Track now) {
                        model.edit(NoteEdits.instrument(now, taken.instrument(), taken.sources()));
                    }
                    if (!taken.told().isEmpty()) {
                        model.tell(String.join(" ", taken.told()));
                    }
                });
    }
}
