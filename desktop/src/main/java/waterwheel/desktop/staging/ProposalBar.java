package waterwheel.desktop.staging;

import java.util.OptionalDouble;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.Figures;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.model.SessionModel;

/** Proposes trims, and takes or drops what is proposed. */
final class ProposalBar extends HBox {
    private static final double FIRST_LOUDNESS_LUFS = -23;

    private enum Way {
        EACH("Each to its target", false, false),
        TOGETHER("All by one gain", true, false),
        LOUDNESS("Each to a loudness", false, true),
        LOUDNESS_TOGETHER("All by one gain, to a loudness", true, true);

        private final String label;
        private final boolean together;
        private final boolean byLoudness;

        Way(String label, boolean together, boolean byLoudness) {
            this.label = label;
            this.together = together;
            this.byLoudness = byLoudness;
        }
    }

    private final SessionModel session;
    private final StagingModel model;
    private final ChoiceBox<Way> way = new ChoiceBox<>();
    private final ChoiceBox<Aim.Place> place = new ChoiceBox<>();
    private final DbField loudness;
    private final Button propose;
    private final Button acceptAll;
    private final Button acceptSelected;
    private final Button discard;
    private final Label result = new Label();
    private double loudnessLufs = FIRST_LOUDNESS_LUFS;

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
        way.setTooltip(new Tooltip("How trims are proposed: sustained tracks by average and percussive ones by peak,"
                + " or by loudness; each by itself, or all by one gain that keeps their balance"));
        loudness = new DbField("Loudness of each track", "LUFS", this::setLoudness);
        loudness.setPrefColumnCount(5);
        loudness.setValue(loudnessLufs);
        way.valueProperty().subscribe(chosen -> {
            loudness.setVisible(chosen.byLoudness);
            loudness.setManaged(chosen.byLoudness);
        });
        place.getItems().setAll(Aim.Place.values());
        place.setConverter(new Words<>(p -> p == Aim.Place.TRIM ? "by trim" : "by clip gain"));
        place.setValue(Aim.Place.TRIM);
        place.getStyleClass().add("small");
        place.setAccessibleText("Which gain is proposed");
        place.setTooltip(new Tooltip(
                "Which gain is proposed: one trim a track, or a gain for each of its clips, measured" + " by itself"));
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
        getChildren().addAll(way, loudness, place, propose, acceptAll, acceptSelected, discard, result);
        session.keep(session.selectionProperty().subscribe(selection -> nameScope()));
        model.proposalsProperty().subscribe(this::show);
        model.resultingMixProperty().subscribe(this::showResult);
    }

    private void setLoudness(double lufs) {
        loudnessLufs = Math.clamp(lufs, -70, 0);
        loudness.setValue(loudnessLufs);
    }

    void propose() {
        Way chosen = way.getValue();
        model.propose(
                chosen.byLoudness ? OptionalDouble.of(loudnessLufs) : OptionalDouble.empty(),
                chosen.together,
                place.getValue());
    }

    private void nameScope() {
        int selected = session.selectionProperty().get().size();
        propose.setText(selected > 1 ? "Propose for " + selected : "Propose");
    }

    private void show(TrimProposals proposals) {
        for (Region part : new Region[] {acceptAll, acceptSelected, discard, result}) {
            part.setVisible(!proposals.isEmpty());
            part.setManaged(!proposals.isEmpty());
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
