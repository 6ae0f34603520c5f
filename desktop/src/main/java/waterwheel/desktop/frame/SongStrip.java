package waterwheel.desktop.frame;

import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.PanLaw;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.model.SessionModel;

/** Transport, position, the song's contour, and the main bus's figures. */
public final class SongStrip extends HBox {
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final PseudoClass ON = PseudoClass.getPseudoClass("on");

    private final SessionModel model;
    private final Consumer<PanLaw> openPanLaw;
    private final Label peak = figure("Highest sample of the mix");
    private final Label headroom = figure("0 dBFS minus the peak of the mix");
    private final Label loudness =
            figure("Integrated loudness of the mix, BS.1770, over the whole song or the chosen section");
    private final Button play = new Button("Play");
    private final Button record = new Button("Rec");
    private final Label position = figure("Place in the song and its length");

    /** @param openPanLaw shows what another pan law would move */
    public SongStrip(SessionModel model, Consumer<PanLaw> openPanLaw) {
        this.model = model;
        this.openPanLaw = openPanLaw;
        getStyleClass().add("song-strip");
        setAlignment(Pos.CENTER_LEFT);

        play.getStyleClass().add("play");
        Hint.on(play, "Play or stop (Space)");
        play.setOnAction(event -> model.transport().playOrStop());
        model.keep(model.transport().playingProperty().subscribe(on -> {
            play.setText(on ? "Stop" : "Play");
            play.setAccessibleText(on ? "Stop" : "Play");
        }));
        model.keep(model.transport().secondsProperty().subscribe(seconds -> showPosition(seconds.doubleValue())));
        record.getStyleClass().addAll("play", "record");
        Hint.on(record, "Record the marked tracks, or stop (Ctrl+Shift+R)");
        record.setOnAction(event -> model.recordings().recordOrStop());
        model.keep(model.recordings().recordingProperty().subscribe(on -> {
            record.setAccessibleText(on ? "Stop recording" : "Record the marked tracks");
            record.pseudoClassStateChanged(ON, on);
        }));
        // Only where something could be recorded.
        model.keep(model.historyProperty().subscribe(history -> {
            boolean fed = history.present().tracks().stream()
                    .anyMatch(track -> track.input().isPresent());
            record.setVisible(fed);
            record.setManaged(fed);
        }));
        Label port = new Label(model.transport().portInFewWords());
        port.getStyleClass().add("muted");
        port.setMinWidth(0);
        Hint.on(port, model.transport().portInWords());
        SectionChoice sections = new SectionChoice(model);
        VBox transport = new VBox(new HBox(8, play, record, position), port, sections);
        transport.getStyleClass().add("transport");
        play.setMinWidth(USE_PREF_SIZE);
        record.setMinWidth(USE_PREF_SIZE);
        position.setMinWidth(USE_PREF_SIZE);
        transport.setMinWidth(210);
        transport.setMaxWidth(USE_PREF_SIZE);

        SongContour contour = new SongContour(model, sections);
        HBox.setHgrow(contour, Priority.ALWAYS);

        VBox main = new VBox(
                row("Main peak", peak), row("Headroom", headroom), row("Loudness", loudness), row("Pan law", panLaw()));
        main.getStyleClass().add("main-figures");
        getChildren().addAll(transport, contour, main);
        model.keep(model.levelsProperty().subscribe(this::show));
    }

    private static Label figure(String explanation) {
        Label label = new Label();
        label.getStyleClass().add("figure");
        Hint.on(label, explanation);
        return label;
    }

    private static HBox row(String name, Node value) {
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        label.setMinWidth(76);
        HBox row = new HBox(label, value);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private ChoiceBox<PanLaw> panLaw() {
        ChoiceBox<PanLaw> choice = new ChoiceBox<>();
        choice.getItems().setAll(PanLaw.values());
        choice.getStyleClass().add("small");
        choice.setAccessibleText("Pan law: level of a centred mono source on each side");
        Hint.on(
                choice,
                "Pan law of the session: how much a centred mono source is turned down on each"
                        + " side. Choosing another shows what it would move.");
        choice.setConverter(new Words<>(PanLaw::label));
        model.keep(model.historyProperty()
                .subscribe(history -> choice.setValue(history.present().panLaw())));
        choice.setOnAction(event -> {
            PanLaw chosen = choice.getValue();
            if (chosen != model.session().panLaw()) {
                // What it would move is looked at first; until then the law is what it was.
                choice.setValue(model.session().panLaw());
                openPanLaw.accept(chosen);
            }
        });
        return choice;
    }

    private void showPosition(double seconds) {
        double length =
                (double) model.session().lengthFrames() / model.session().sampleRateHz();
        position.setText(LevelText.time(seconds) + " / " + LevelText.time(length));
    }

    private void show(SessionLevels levels) {
        boolean known = levels.askedMain().isPresent();
        for (Label label : new Label[] {peak, headroom, loudness}) {
            label.pseudoClassStateChanged(PENDING, !known);
        }
        levels.askedMain().ifPresent(this::show);
        if (!known && peak.getText().isEmpty()) {
            peak.setText("measuring…");
        }
    }

    private void show(Figures mix) {
        peak.setText(LevelText.level(mix.samplePeakDbfs(), "dBFS"));
        headroom.setText(
                mix.headroomDb() < 0
                        ? LevelText.signed(mix.headroomDb(), 1, true) + " dB, over full scale"
                        : LevelText.signed(mix.headroomDb(), 1, true) + " dB");
        loudness.setText(LevelText.level(mix.integratedLufs(), "LUFS"));
        for (Label label : new Label[] {peak, headroom}) {
            label.pseudoClassStateChanged(OVER, mix.headroomDb() < 0);
        }
    }
}
