package waterwheel.desktop.stems;

import java.io.File;
import java.util.List;
import java.util.function.BiFunction;
import java.util.function.Function;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.metering.Figures;
import waterwheel.core.stems.StemDivision;
import waterwheel.core.stems.StemForecast;
import waterwheel.core.stems.StemProof;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.stems.StemTap;
import waterwheel.core.stems.Treatment;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.WholeText;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** What will be rendered and what each file will measure; the render with its progress; the proof after it. */
public final class StemsView extends VBox {
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final double NAME_WIDTH = 176;
    private static final double FIGURE_WIDTH = 92;
    private static final double GAIN_WIDTH = 68;

    private final SessionModel session;
    private final StemsModel model;
    private final VBox rows = new VBox();

    private final VBox proof = new VBox();
    private final Button render = new Button("Render stems and mix");
    private final Button stop = new Button("Stop");
    private final ProgressBar bar = new ProgressBar(0);
    private final Label percent = new Label();

    public StemsView(SessionModel session, WorkLine work) {
        this.session = session;
        model = new StemsModel(session, work);
        getStyleClass().addAll("view", "stems");
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren()
                .addAll(title(), settings(), files(), destination(), header(), scroll, hardware(), action(), proof);
        model.forecastProperty().subscribe(this::show);
        model.resultProperty().subscribe(this::showProof);
        model.progressProperty().subscribe(p -> showProgress(p.doubleValue()));
        visibleProperty().subscribe(model::setWanted);
    }

    private static HBox title() {
        Label title = new Label("Stems");
        title.getStyleClass().add("view-title");
        Label hint =
                new Label("The mix and the files that add up to it, each gain stated. What is silent is left out.");
        hint.getStyleClass().add("muted");
        HBox line = new HBox(12, title, hint);
        line.setAlignment(Pos.BASELINE_LEFT);
        return line;
    }

    private HBox settings() {
        HBox line = new HBox(
                12,
                named("A stem of", division()),
                named("taken", tap()),
                named("Buses treat it", treatment()),
                named("Tail", tail()));
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("settings");
        return line;
    }

    private HBox files() {
        ChoiceBox<RenderFormat> format = new SmallChoice<>(
                List.of(RenderFormat.values()),
                RenderFormat::label,
                "Format of the files",
                "Format of the files; fixed-point formats get TPDF dither");
        format.setValue(model.formatProperty().get());
        format.valueProperty().subscribe(value -> model.formatProperty().set(value));

        HBox line = new HBox(12, named("Format", format), new PolicyChoice(model.policyProperty()));
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("settings");

        return line;
    }

    private static HBox named(String name, Node control) {
        Label label = new Label(name);
        label.setMinWidth(Region.USE_PREF_SIZE);
        HBox pair = new HBox(6, label, control);
        pair.setAlignment(Pos.CENTER_LEFT);
        return pair;
    }

    private ChoiceBox<StemDivision> division() {
        return settled(
                new SmallChoice<>(
                        List.of(StemDivision.values()),
                        d -> d == StemDivision.TRACKS ? "each track" : "each bus",
                        "What a stem is made of",
                        "A stem of each track, or one of each bus that feeds the main bus with all that comes together"
                                + " in it; either way each with its share of every return"),
                StemSettings::division,
                StemSettings::withDivision);
    }

    private ChoiceBox<Treatment> treatment() {
        return settled(
                new SmallChoice<>(
                        List.of(Treatment.values()),
                        t -> t == Treatment.AS_MIX ? "as the mix" : "by itself",
                        "What compressors and the like on buses do with a stem",
                        "As the mix: they turn each stem by the gain that the whole asks for, so that the stems add up"
                                + " to the mix. By itself: they answer to each stem as if nothing else were there"),
                StemSettings::treatment,
                StemSettings::withTreatment);
    }

    private ChoiceBox<StemTap> tap() {
        return settled(
                new SmallChoice<>(
                        List.of(StemTap.values()),
                        t -> t == StemTap.AFTER_MAIN ? "after main" : "before main",
                        "Where stems and mix are taken",
                        "After main: behind the main bus's processing, fader and placement. Before main: where they"
                                + " come together at its input, for somebody who does its processing anew"),
                StemSettings::tap,
                StemSettings::withTap);
    }

    /** A choice that shows one of the settings and changes it. */
    private <T> ChoiceBox<T> settled(
            ChoiceBox<T> choice, Function<StemSettings, T> value, BiFunction<StemSettings, T, StemSettings> change) {
        choice.setValue(value.apply(model.settingsProperty().get()));
        choice.valueProperty().subscribe(chosen -> model.settingsProperty()
                .set(change.apply(model.settingsProperty().get(), chosen)));
        return choice;
    }

    private ValueField tail() {
        ValueField[] field = new ValueField[1];
        field[0] = new ValueField("Tail after the song's end", "s", 1, 0.5, seconds -> {
            double value = Math.clamp(seconds, 0, StemSettings.MOST_TAIL_SECONDS);
            model.settingsProperty().set(model.settingsProperty().get().withTailSeconds(value));
            field[0].setValue(value);
        });
        field[0].setMinWidth(64);
        field[0].setPrefColumnCount(4);
        field[0].setValue(model.settingsProperty().get().tailSeconds());
        return field[0];
    }

    private HBox destination() {
        Label folder = new Label();
        folder.setMinWidth(0);
        folder.getStyleClass().add("code");
        model.folderProperty().subscribe(path -> {
            folder.setText(path.toString());
            folder.setTooltip(new Tooltip(path.toString()));
        });
        Button choose = new Button("Choose folder…");
        choose.getStyleClass().add("small");
        choose.setMinWidth(Region.USE_PREF_SIZE);
        choose.setTooltip(new Tooltip("Choose where the files go"));
        choose.setOnAction(event -> {
            DirectoryChooser chooser = new DirectoryChooser();
            chooser.setTitle("Folder for the stems");
            File chosen = chooser.showDialog(getScene().getWindow());
            if (chosen != null) {
                model.folderProperty().set(chosen.toPath());
            }
        });
        Label to = new Label("Into");
        to.setMinWidth(Region.USE_PREF_SIZE);
        CheckBox cues = new CheckBox("Clicks and cues in a folder apart");
        cues.setSelected(true);
        cues.selectedProperty().subscribe(on -> model.cuesProperty().set(on));
        cues.setTooltip(new Tooltip("Cues are never part of the mix; they can be written beside it or left out"));

        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        cues.setMinWidth(Region.USE_PREF_SIZE);
        HBox line = new HBox(12, to, folder, choose, gap, cues);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static HBox header() {
        ScaleHeader scale = new ScaleHeader();
        HBox.setHgrow(scale, Priority.ALWAYS);
        HBox header = new HBox(column("File", NAME_WIDTH, Pos.CENTER_LEFT), scale);
        header.getChildren().add(column("Gain", GAIN_WIDTH, Pos.CENTER_RIGHT));
        for (String name : new String[] {"Peak", "Headroom", "Loudness"}) {
            header.getChildren().add(column(name, FIGURE_WIDTH, Pos.CENTER_RIGHT));
        }
        header.getStyleClass().add("staging-header");
        return header;
    }

    private static Label column(String name, double width, Pos alignment) {
        Label label = new ColumnLabel(name, width, alignment);
        label.setMaxWidth(width);
        return label;
    }

    /** What has to be sent through hardware before; nothing where nothing has. */
    private HBox hardware() {
        Label words = new Label();
        words.setMinWidth(0);
        WholeText.onHover(words);
        SmallButton capture = new SmallButton(
                "Capture stems",
                "Send each stem by itself through the hardware on its buses, and record what comes back");
        capture.setOnAction(event -> model.captureStems());
        HBox line = new HBox(12, words, capture);
        line.setAlignment(Pos.CENTER_LEFT);
        model.passesProperty().subscribe(passes -> {
            line.setVisible(passes > 0);
            line.setManaged(passes > 0);
            words.setText(
                    passes == 0
                            ? ""
                            : "A loop on a bus brings back each stem by itself: "
                                    + CaptureRun.inWords(passes, session.session()) + ". Or take a stem of each bus.");
        });
        return line;
    }

    private HBox action() {
        render.getStyleClass().add("accent");
        render.setTooltip(new Tooltip("Render all files, then read them back and prove that they add up (Ctrl+R)"));
        render.setOnAction(event -> model.render());
        stop.setTooltip(new Tooltip("Stop the render; no file is left behind"));
        stop.setOnAction(event -> model.stop());
        bar.setMaxWidth(Double.MAX_VALUE);
        bar.setAccessibleText("Progress of the render");
        HBox.setHgrow(bar, Priority.ALWAYS);
        percent.getStyleClass().add("figure");
        percent.setMinWidth(48);
        HBox line = new HBox(12, render, stop, bar, percent);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("action");
        return line;
    }

    /** Whether it shows what the stems of the session as it is now will measure. */
    public boolean ready() {
        return model.forecastProperty().get() != null;
    }

    /** Starts the render, as its button does. */
    public void render() {
        model.render();
    }

    private void show(@Nullable StemForecast forecast) {
        if (forecast == null) {
            if (rows.getChildren().isEmpty()) {
                Label wait = new Label("Measuring what each stem will be…");
                wait.getStyleClass().add("muted");
                rows.getChildren().setAll(wait);
            }
            rows.setOpacity(0.5);
            return;
        }
        rows.setOpacity(1);

        rows.getChildren().clear();
        rows.getChildren().add(row("Mix", "", forecast.gainDb(), forecast.mix(), "mix-row"));
        for (StemForecast.Stem stem : forecast.stems()) {
            rows.getChildren()
                    .add(row(
                            stem.fileName(),
                            stem.silent() ? "silent, left out" : stem.inMix() ? "" : "cue, not in the mix",
                            stem.gainDb(),
                            stem.figures(),
                            stem.inMix() ? "stem" : "cue"));
        }
    }

    private HBox row(String name, String remark, double gainDb, Figures figures, String styleClass) {
        Label label = column(name, NAME_WIDTH, Pos.CENTER_LEFT);
        label.setTooltip(new Tooltip(remark.isEmpty() ? name : name + ": " + remark));
        LevelBar level = new LevelBar(session.session().nominalDbfs());
        level.show(figures);
        HBox.setHgrow(level, Priority.ALWAYS);
        boolean over = figures.headroomDb() < 0;
        HBox row = new HBox(label, level);
        if (remark.isEmpty() || !figures.silent()) {
            row.getChildren()
                    .addAll(
                            figure(LevelText.change(gainDb), GAIN_WIDTH, false),
                            figure(LevelText.level(figures.samplePeakDbfs(), "dBFS"), over),
                            figure(LevelText.signed(figures.headroomDb(), 1, true) + " dB", over),
                            figure(LevelText.level(figures.integratedLufs(), "LUFS"), false));
        }
        if (!remark.isEmpty()) {
            label.setText(figures.silent() ? name + " (" + remark + ")" : name + " (cue)");
        }
        row.getStyleClass().addAll("stem-row", styleClass);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private static Label figure(String text, boolean over) {
        return figure(text, FIGURE_WIDTH, over);
    }

    private static Label figure(String text, double width, boolean over) {
        Label label = column(text, width, Pos.CENTER_RIGHT);
        label.getStyleClass().add("figure");
        label.pseudoClassStateChanged(OVER, over);
        return label;
    }

    private void showProgress(double part) {
        boolean running = part >= 0;
        render.setDisable(running);
        stop.setDisable(!running);
        bar.setVisible(running);
        percent.setVisible(running);
        bar.setProgress(Math.max(0, part));
        percent.setText(Math.round(Math.max(0, part) * 100) + " %");
    }

    private void showProof(@Nullable StemResult result) {
        proof.getStyleClass().setAll("proof");
        proof.setVisible(result != null);
        proof.setManaged(result != null);
        if (result == null) {
            return;
        }
        StemProof proven = result.proof();
        Label verdict = new Label(proven.holds() ? "Proof holds" : "Proof fails");
        verdict.getStyleClass().addAll("verdict", proven.holds() ? "holds" : "fails");
        Label sentence = new Label(proven.inWords());
        sentence.setWrapText(true);
        sentence.setMinHeight(Region.USE_PREF_SIZE);
        String figures = result.mix()
                .map(mix -> "  The mix read back: peak " + LevelText.level(mix.samplePeakDbfs(), "dBFS")
                        + ", true peak " + LevelText.level(mix.truePeakDbtp(), "dBTP") + ", loudness "
                        + LevelText.level(mix.integratedLufs(), "LUFS") + ".")
                .orElse("");
        String known = result.upToDate() == 0 ? "" : " (" + result.upToDate() + " were up to date)";
        Label files = new Label(result.files().size() + " files" + known + ", " + StemRender.MANIFEST + " and "
                + StemRender.REPORT + " in " + result.request().folder() + "." + figures);
        files.getStyleClass().add("muted");
        files.setWrapText(true);
        files.setMinHeight(Region.USE_PREF_SIZE);
        proof.getChildren().setAll(List.<Node>of(verdict, sentence, files));
    }
}
