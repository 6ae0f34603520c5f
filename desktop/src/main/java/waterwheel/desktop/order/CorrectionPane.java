package waterwheel.desktop.order;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Song;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.songs.Level;
import waterwheel.core.songs.PartLevels;
import waterwheel.core.songs.SongLevels;
import waterwheel.core.songs.SongRow;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ProcessorCurve;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;

/** What is known of the selected part of the selected song, and what corrects it. */
final class CorrectionPane extends VBox {
    private static final double WIDTH = 276;
    private static final double GAIN_EDGE_DB = 24;
    private static final int RATE_IF_UNKNOWN = 48_000;

    private final OrderModel model;
    private final Label title = new Label();
    private final Label subtitle = new Label();
    private final VBox notes = new VBox(2);
    private final GridPane figures = new GridPane();
    private final VBox correction = new VBox(4);
    private final ValueField gain;
    private final Fader gainFader;
    private final CheckBox equalised = new CheckBox("Equaliser");
    private final ProcessorCurve curve = new ProcessorCurve();
    private final GridPane parameters = new GridPane();
    private final List<Shown> shown = new ArrayList<>();
    private final SmallButton open = new SmallButton(
            "Open its session", "Correct this song in its own mix instead; it is measured again when it is saved");
    private final PartPane inAllSongs;
    private final SectionsPane sections;
    private boolean showing;

    /** A control that shows a parameter of the equaliser. */
    private interface Shown {
        void show(Processor settings);
    }

    /** @param openSession opens the session that a song is */
    CorrectionPane(OrderModel model, Consumer<Path> openSession) {
        super(6);
        this.model = model;
        open.setOnAction(event -> model.selectedSong()
                .ifPresent(song -> openSession.accept(model.place().of(song))));
        inAllSongs = new PartPane(model);
        sections = new SectionsPane(model);
        getStyleClass().add("correction-pane");
        setMinWidth(WIDTH);
        setPrefWidth(WIDTH);
        setMaxWidth(WIDTH);
        title.getStyleClass().add("panel-title");
        title.setMinWidth(0);
        subtitle.getStyleClass().add("muted");
        subtitle.setMinWidth(0);
        gain = new ValueField("Gain of this part in this song", "dB", 2, 0.1, db -> correct(db, ""));
        gain.setPrefColumnCount(6);
        gainFader = new Fader(
                "Gain of this part in this song",
                Fader.Travel.even(-GAIN_EDGE_DB, GAIN_EDGE_DB, 0.1),
                0.1,
                0,
                this::correct);
        HBox.setHgrow(gainFader, Priority.ALWAYS);
        Label gainName = new Label("Gain");
        gainName.setMinWidth(Region.USE_PREF_SIZE);
        gain.setMinWidth(76);
        HBox gains = new HBox(6, gainName, gainFader, gain);
        gains.setAlignment(Pos.CENTER_LEFT);
        Hint.on(equalised, "Correct this part of this song with an equaliser");
        equalised.setOnAction(event -> equalise());
        figures.setHgap(10);
        figures.setVgap(2);
        parameters.setHgap(8);
        parameters.setVgap(2);
        addParameters();
        correction.getChildren().addAll(gains, equalised, curve, parameters);
        VBox content = new VBox(8, title, subtitle, figures, correction, notes, sections, inAllSongs, open, songLine());
        ScrollPane scroll = new ScrollPane(content);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().add(scroll);
        show();
    }

    private HBox songLine() {
        SmallButton up = new SmallButton("Earlier", "Move this song up in the running order (Alt+Shift+Up)");
        up.setOnAction(event -> model.selectedSong().ifPresent(song -> model.move(song.id(), -1)));
        SmallButton down = new SmallButton("Later", "Move this song down in the running order (Alt+Shift+Down)");
        down.setOnAction(event -> model.selectedSong().ifPresent(song -> model.move(song.id(), 1)));
        SmallButton out = new SmallButton("Take out", "Take this song out of the running order; its files stay");
        out.setOnAction(event -> model.selectedSong().ifPresent(song -> model.remove(song.id())));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(6, up, down, gap, out);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void addParameters() {
        int row = 0;
        for (Parameter parameter : Equaliser.KIND.parameters()) {
            Label name = new Label(parameter.name());
            name.setMinWidth(Region.USE_PREF_SIZE);
            parameters.add(name, 0, row);
            parameters.add(control(parameter), 1, row);
            row++;
        }
    }

    private Node control(Parameter parameter) {
        if (!parameter.choices().isEmpty()) {
            SmallChoice<String> choice = new SmallChoice<>(
                    parameter.choices(), word -> word, parameter.name(), parameter.name() + " of the equaliser");
            choice.setOnAction(event -> set(parameter, parameter.choices().indexOf(choice.getValue())));
            shown.add(settings -> choice.setValue(parameter.choices().get(settings.choice(parameter.key()))));
            return choice;
        }
        int decimals = parameter.unit().equals("Hz") ? 0 : 2;
        ValueField field = new ValueField(
                parameter.name(), parameter.unit(), decimals, decimals == 0 ? 10 : 0.1, value -> set(parameter, value));
        field.setPrefColumnCount(8);
        shown.add(settings -> field.setValue(settings.value(parameter.key())));
        return field;
    }

    private void set(Parameter parameter, double value) {
        if (!showing) {
            change(
                    now -> now.withEqualiser(Optional.of(now.equaliser()
                            .orElseGet(() -> Processor.usual(Equaliser.KIND))
                            .with(parameter.key(), value))),
                    "");
        }
    }

    private void equalise() {
        if (!showing) {
            boolean on = equalised.isSelected();
            change(now -> now.withEqualiser(on ? Optional.of(Processor.usual(Equaliser.KIND)) : Optional.empty()), "");
        }
    }

    private void correct(double db, String gesture) {
        if (!showing) {
            change(now -> now.withGainDb(db), gesture);
        }
    }

    /** A change of the selected part's correction. */
    private interface Change {
        Correction of(Correction now);
    }

    private void change(Change change, String gesture) {
        OrderModel.Selection selected = model.selectionProperty().get();
        Optional<Song> song = model.selectedSong();
        if (selected != null && song.isPresent() && !selected.part().isEmpty()) {
            Correction now = song.get().correction(selected.part());
            model.correct(selected.song(), selected.part(), change.of(now), gesture);
        }
    }

    /** Shows what is selected as it is now. */
    void show() {
        OrderModel.Selection selected = model.selectionProperty().get();
        Song song = model.selectedSong().orElse(null);
        boolean any = selected != null && song != null;
        setVisible(any);
        if (selected == null || song == null) {
            return;
        }
        boolean part = !selected.part().isEmpty();
        title.setText(song.title());
        subtitle.setText(part ? selected.part() : "Sum of all parts but clicks and cues");
        correction.setVisible(part);
        correction.setManaged(part);
        inAllSongs.show(song, selected.part());
        sections.show(song);
        boolean session = SessionFolder.isSession(model.place().of(song));
        open.setVisible(session);
        open.setManaged(session);
        // A session has its own; of the parts only the song as a whole has any.
        sections.setVisible(!part && !session);
        sections.setManaged(sections.isVisible());
        showing = true;
        Correction now = song.correction(selected.part());
        gain.setValue(now.gainDb());
        gainFader.show(Math.clamp(now.gainDb(), -GAIN_EDGE_DB, GAIN_EDGE_DB));
        equalised.setSelected(now.equaliser().isPresent());
        boolean on = now.equaliser().isPresent();
        for (Node node : List.of(curve, parameters)) {
            node.setVisible(on);
            node.setManaged(on);
        }
        Optional<SongRow> row = model.row(song.id());
        now.equaliser().ifPresent(settings -> {
            shown.forEach(one -> one.show(settings));
            int rate = row.flatMap(SongRow::known).map(SongLevels::sampleRateHz).orElse(RATE_IF_UNKNOWN);
            curve.show(settings, rate, null);
        });
        showing = false;
        showFigures(row.orElse(null), selected.part());
    }

    private void showFigures(@Nullable SongRow row, String part) {
        figures.getChildren().clear();
        notes.getChildren().clear();
        if (row == null) {
            return;
        }
        for (String sentence : model.levels().sentences(row)) {
            Label note = new Label(sentence);
            note.setWrapText(true);
            note.getStyleClass().add("song-note");
            notes.getChildren().add(note);
        }
        SongLevels levels = row.levels();
        PartLevels found = levels == null
                ? null
                : part.isEmpty() ? levels.sum() : levels.part(part).orElse(null);
        if (levels == null || found == null) {
            figures.addRow(0, new Label(levels == null ? "No figures yet" : "The song has no such part"));
            return;
        }
        head();
        line(1, "Whole song", found.whole());
        for (int i = 0; i < levels.sections().size(); i++) {
            line(2 + i, levels.sections().get(i), found.sections().get(i));
        }
    }

    private void head() {
        Label loudness = new Label("LUFS");
        Label range = new Label("Range, LU");
        Label peak = new Label("Peak");
        Hint.on(peak, "True peak, dBTP, of the whole song; highest sample, dBFS, within a section");
        Hint.on(range, "Loudness range");
        figures.addRow(0, new Label(""), loudness, range, peak);
        for (Label label : List.of(loudness, range, peak)) {
            label.getStyleClass().add("muted");
        }
    }

    private void line(int row, String name, Level level) {
        Label title = new Label(name);
        title.setMaxWidth(104);
        Hint.on(title, name);
        figures.addRow(
                row,
                title,
                figure(LevelText.signed(level.integratedLufs(), 1, true)),
                figure(LevelText.signed(level.rangeLu(), 1, false)),
                figure(LevelText.signed(
                        Double.isNaN(level.truePeakDbtp()) ? level.samplePeakDbfs() : level.truePeakDbtp(), 1, true)));
    }

    private static Label figure(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("figure");
        label.setMaxWidth(Double.MAX_VALUE);
        label.setAlignment(Pos.CENTER_RIGHT);
        return label;
    }
}
