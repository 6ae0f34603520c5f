package waterwheel.desktop.stems;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.StemDivision;
import waterwheel.core.stems.StemForecast;
import waterwheel.core.stems.StemProof;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.Together;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ColumnLabel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.controls.ScaleHeader;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** What will be rendered and what each file will measure; the render with its progress; the proof after it. */
public final class StemsView extends VBox {
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final double ROW_HEIGHT = 19;
    private static final double NAME_WIDTH = 176;
    private static final double FIGURE_WIDTH = 92;
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");
    private static final double GAIN_WIDTH = 68;

    private final SessionModel session;
    private final StemsModel model;
    private final RowList<Line, HBox> rows;
    private final VBox proof = new VBox();
    private final Button render = new Button("Render stems and mix");
    private final Button stop = new Button("Stop");
    private final ProgressBar bar = new ProgressBar(0);
    private final Label percent = new Label();

    public StemsView(SessionModel session, WorkLine work) {
        this.session = session;
        model = new StemsModel(session, work);
        getStyleClass().addAll("view", "stems");
        PutTogether together = new PutTogether(session);
        ScrollPane scroll = new ScrollPane();
        rows = new RowList<>(scroll, ROW_HEIGHT, this::row);
        rows.getStyleClass().add("stem-rows");
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren()
                .addAll(
                        title(),
                        new StemSettingsBar(session, model),
                        new DestinationBar(model),
                        together,
                        header(),
                        scroll,
                        hardware(),
                        bent(),
                        action(),
                        proof);
        session.keep(session.historyProperty().subscribe(history -> {
            boolean byHand = session.session().stems().by() == StemDivision.By.NAMED;
            together.setVisible(byHand);
            together.setManaged(byHand);
        }));
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
        Hint.wholeText(words);
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

    /** What cannot add up, and what would; nothing where all does. */
    private HBox bent() {
        Label words = new Label();
        words.setMinWidth(0);
        Hint.wholeText(words);
        SmallButton instead = new SmallButton("", "Choose the settings under which the stems add up to the mix");
        instead.setAccessibleText("Settings under which the stems add up to the mix");
        instead.setOnAction(
                event -> Optional.ofNullable(model.togetherProperty().get())
                        .flatMap(Together::instead)
                        .ifPresent(model::take));
        HBox line = new HBox(12, words, instead);
        line.setAlignment(Pos.CENTER_LEFT);
        model.togetherProperty().subscribe(now -> {
            boolean bent = now != null && !now.buses().isEmpty();
            line.setVisible(bent);
            line.setManaged(bent);
            if (now != null) {
                words.setText(String.join(" and ", now.buses())
                        + (now.buses().size() == 1 ? " treats" : " treat")
                        + " several stems as one, so that they will not add up exactly.");
                instead.setText(now.instead().map(Together.Instead::label).orElse(""));
                instead.setVisible(now.instead().isPresent());
            }
        });
        return line;
    }

    private HBox action() {
        render.getStyleClass().add("accent");
        Hint.on(render, "Render all files, then read them back and prove that they add up (Ctrl+R)");
        render.setOnAction(event -> model.render());
        Hint.on(stop, "Stop the render; no file is left behind");
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
                rows.show(List.of(new RowList.Entry.Between<>(wait)));
            }
            rows.pseudoClassStateChanged(PENDING, true);
            return;
        }
        rows.pseudoClassStateChanged(PENDING, false);
        double nominal = session.session().nominalDbfs();
        List<Line> lines = new ArrayList<>();
        lines.add(new Line("Mix", "", forecast.gainDb(), forecast.mix(), nominal, "mix-row"));
        for (StemForecast.Stem stem : forecast.stems()) {
            lines.add(new Line(
                    stem.fileName(),
                    stem.silent() ? "silent, left out" : stem.inMix() ? "" : "cue, not in the mix",
                    stem.gainDb(),
                    stem.figures(),
                    nominal,
                    stem.inMix() ? "stem" : "cue"));
        }
        rows.show(lines.stream().map(RowList.Entry.Row::new).toList());
    }

    /** What a file will be, as its row says it. */
    private record Line(
            String name, String remark, double gainDb, Figures figures, double nominalDbfs, String styleClass) {}

    private HBox row(Line line) {
        String name = line.name();
        String remark = line.remark();
        Figures figures = line.figures();
        Label label = column(name, NAME_WIDTH, Pos.CENTER_LEFT);
        Hint.on(label, remark.isEmpty() ? name : name + ": " + remark);
        LevelBar level = new LevelBar(line.nominalDbfs());
        level.show(figures);
        HBox.setHgrow(level, Priority.ALWAYS);
        boolean over = figures.headroomDb() < 0;
        HBox row = new HBox(label, level);
        if (remark.isEmpty() || !figures.silent()) {
            row.getChildren()
                    .addAll(
                            figure(LevelText.change(line.gainDb()), GAIN_WIDTH, false),
                            figure(LevelText.level(figures.samplePeakDbfs(), "dBFS"), over),
                            figure(LevelText.signed(figures.headroomDb(), 1, true) + " dB", over),
                            figure(LevelText.level(figures.integratedLufs(), "LUFS"), false));
        }
        if (!remark.isEmpty()) {
            label.setText(figures.silent() ? name + " (" + remark + ")" : name + " (cue)");
        }
        row.getStyleClass().addAll("stem-row", line.styleClass());
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
