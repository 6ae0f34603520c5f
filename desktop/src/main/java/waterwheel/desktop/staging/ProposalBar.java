package waterwheel.desktop.staging;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.Figures;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.model.SessionModel;

/** Proposes trims, and takes or drops what is proposed. */
final class ProposalBar extends HBox {
    private static final double FIRST_LOUDNESS_LUFS = -23;

    private static final double FIRST_PEAK_DBFS = -12;

    /** What is brought where. */
    private enum Way {
        EACH("Each to its target", false, ""),
        TOGETHER("All by one gain", true, ""),
        LOUDNESS("Each to a loudness", false, "LUFS"),
        LOUDNESS_TOGETHER("All by one gain, to a loudness", true, "LUFS"),
        PEAK("Each to a peak", false, "dBFS"),
        PEAK_TOGETHER("All by one gain, to a peak", true, "dBFS");

        private final String label;
        private final boolean together;
        /** Of the figure that is typed beside it; empty where there is none. */
        private final String unit;

        Way(String label, boolean together, String unit) {
            this.label = label;
            this.together = together;
            this.unit = unit;
        }
    }

    private final SessionModel session;
    private final StagingModel model;
    private final ChoiceBox<Way> way = new ChoiceBox<>();
    private final ChoiceBox<Aim.Place> place = new ChoiceBox<>();
    private final DbField loudness;
    private final DbField peak;
    private final Button propose;
    private final Button acceptAll;
    private final Button acceptSelected;
    private final Button discard;
    private final Label result = new Label();
    private double loudnessLufs = FIRST_LOUDNESS_LUFS;
    private double peakDbfs = FIRST_PEAK_DBFS;

    ProposalBar(SessionModel session, StagingModel model) {
        super(8);
        this.session = session;
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().add("proposal-bar");
        way.getItems().setAll(Way.values());
        way.setConverter(new Words<>(w -> w.label));
        way.setValue(Way.EACH);
        way.getStyleClass().add("small");
        way.setAccessibleText("How trims are proposed");
        Hint.on(
                way,
                "How trims are proposed: sustained tracks by average and percussive ones by peak,"
                        + " or all by loudness or peak; each by itself, or all by one gain that keeps their balance");
        loudness = new DbField("Loudness of each track", "LUFS", this::setLoudness);
        loudness.setPrefColumnCount(5);
        loudness.setValue(loudnessLufs);
        peak = new DbField("Peak of each track", "dBFS", this::setPeak);
        peak.setPrefColumnCount(5);
        peak.setValue(peakDbfs);
        way.valueProperty().subscribe(chosen -> {
            show(loudness, chosen.unit.equals("LUFS"));
            show(peak, chosen.unit.equals("dBFS"));
        });
        place.getItems().setAll(Aim.Place.values());
        place.setConverter(new Words<>(p -> p == Aim.Place.TRIM ? "by trim" : "by clip gain"));
        place.setValue(Aim.Place.TRIM);
        place.getStyleClass().add("small");
        place.setAccessibleText("Which gain is proposed");
        Hint.on(place, "Which gain is proposed: one trim a track, or a gain for each of its clips, measured by itself");
        propose = new SmallButton("Propose", "Show a proposed gain for every track, or for the selected ones (Ctrl+T)");
        propose.setOnAction(event -> propose());
        acceptAll = new SmallButton("Accept all", "Set all proposed gains, as one undo step (Ctrl+Enter)");
        acceptAll.getStyleClass().add("accent");
        acceptAll.setOnAction(event -> model.acceptAll());
        acceptSelected = new SmallButton("Accept selected", "Set the proposed trims of the selected channels (A)");
        acceptSelected.setOnAction(
                event -> model.accept(session.selectionProperty().get()));
        discard = new SmallButton("Discard", "Drop what is proposed; nothing changes (Escape)");
        discard.setOnAction(event -> model.discard());
        result.getStyleClass().add("figure");
        result.setMinWidth(Region.USE_PREF_SIZE);
        getChildren().addAll(way, loudness, peak, place, propose, acceptAll, acceptSelected, discard, result);
        session.keep(session.selectionProperty().subscribe(selection -> nameScope()));
        model.proposalsProperty().subscribe(this::show);
        model.resultingMixProperty().subscribe(this::showResult);
    }

    private void setLoudness(double lufs) {
        loudnessLufs = Math.clamp(lufs, -70, 0);
        loudness.setValue(loudnessLufs);
    }

    private void setPeak(double dbfs) {
        peakDbfs = Math.clamp(dbfs, Aim.Peak.LEAST_DBFS, Aim.Peak.MOST_DBFS);
        peak.setValue(peakDbfs);
    }

    private static void show(Region part, boolean shown) {
        part.setVisible(shown);
        part.setManaged(shown);
    }

    void propose() {
        Way chosen = way.getValue();
        Aim.Goal goal =
                switch (chosen.unit) {
                    case "LUFS" -> new Aim.Loudness(loudnessLufs);
                    case "dBFS" -> new Aim.Peak(peakDbfs);
                    default -> new Aim.ByKind();
                };
        model.propose(new Aim(goal, chosen.together, place.getValue()));
    }

    private void nameScope() {
        int selected = session.selectionProperty().get().size();
        propose.setText(selected > 1 ? "Propose for " + selected : "Propose");
    }

    private void show(TrimProposals proposals) {
        for (Region part : new Region[] {acceptAll, acceptSelected, discard, result}) {
            show(part, !proposals.isEmpty());
        }
    }

    private void showResult(@Nullable Figures mix) {
        String now = session.levels()
                .main()
                .map(m -> LevelText.change(m.headroomDb()))
                .orElse("…");
        result.setText("Main headroom " + now + " → " + (mix == null ? "…" : LevelText.change(mix.headroomDb())));
    }
}
