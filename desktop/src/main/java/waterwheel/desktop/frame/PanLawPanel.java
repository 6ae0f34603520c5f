package waterwheel.desktop.frame;

import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.PanLawChange;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.metering.Average;
import waterwheel.core.session.PanLaw;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** What another pan law would move, channel by channel, before it is chosen: as it is, or keeping levels. */
public final class PanLawPanel extends BottomPanel {
    private static final double MOST_HEIGHT = 150;
    private static final double LEAST_HEIGHT = 110;

    private final SessionModel model;
    private final Supplier<Optional<PanLaw>> own;
    private final Label title = new Label();
    private final Label mono = new Label();
    private final CheckBox mine = new CheckBox();
    private final GridPane list = new GridPane(18, 2);
    private @Nullable PanLaw wanted;

    /**
     * Makes a panel that is put away.
     *
     * @param own the law that the user works under by choice
     * @param setOwn takes another one
     */
    public PanLawPanel(SessionModel model, Supplier<Optional<PanLaw>> own, Consumer<PanLaw> setOwn) {
        this.model = model;
        this.own = own;
        setSpacing(6);
        title.getStyleClass().add("panel-title");
        mono.getStyleClass().add("muted");
        SmallButton asItIs = new SmallButton("Change as it is", "Centred mono sources move against wide ones");
        asItIs.setOnAction(event -> take(false));
        SmallButton keeping = new SmallButton(
                "Change keeping levels", "Mono channels' faders and sends make up for it, so that levels stay");
        keeping.setOnAction(event -> take(true));
        SmallButton leave = new SmallButton("Leave it", "Keep the present law (Escape)");
        leave.setOnAction(event -> leave());
        mine.setAccessibleText("This is my own pan law");
        Hint.on(mine, "Sessions that run under another law than your own are told of when they open");
        mine.setOnAction(event -> {
            PanLaw law = wanted;
            if (law != null && mine.isSelected()) {
                setOwn.accept(law);
            }
        });
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox heading = new HBox(8, title, gap, mine, asItIs, keeping, leave);
        heading.setAlignment(Pos.CENTER_LEFT);
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        scroll.setMaxHeight(MOST_HEIGHT);
        scroll.setMinHeight(LEAST_HEIGHT);
        scroll.setPrefHeight(MOST_HEIGHT);
        mono.setWrapText(true);
        mono.setMinHeight(Region.USE_PREF_SIZE);
        getChildren().addAll(heading, scroll, mono);
    }

    /** Shows what a law would move; nothing while it is the session's. */
    public void open(PanLaw law) {
        wanted = law;
        if (law == model.session().panLaw()) {
            leave();
        } else {
            open();
        }
    }

    @Override
    protected Subscription opened() {
        return model.historyProperty().subscribe(history -> show());
    }

    private void show() {
        PanLaw law = wanted;
        if (law == null || law == model.session().panLaw()) {
            leave();
            return;
        }
        PanLawChange asItIs = PanLawChange.of(model.session(), law, false);
        PanLawChange keeping = PanLawChange.of(model.session(), law, true);
        title.setText("Pan law " + asItIs.from().label() + " to " + law.label());
        mine.setText("My own law is " + law.label());
        mine.setSelected(own.get().filter(law::equals).isPresent());
        list.getChildren().clear();
        String[] heads = {"Channel", "as it is", "in mono", "keeping levels: fader", "what is left"};
        for (int column = 0; column < heads.length; column++) {
            cell(heads[column], column, 0, "muted");
        }
        for (int i = 0; i < asItIs.moved().size(); i++) {
            PanLawChange.Moved moved = asItIs.moved().get(i);
            PanLawChange.Moved kept = keeping.moved().get(i);
            cell(model.session().channel(moved.channel()).name(), 0, i + 1, "channel-name");
            cell(db(moved.lawDb()), 1, i + 1, "figure");
            cell(db(moved.monoDb()), 2, i + 1, "figure");
            cell(db(kept.faderDb()), 3, i + 1, "figure");
            cell(db(kept.levelDb()), 4, i + 1, "figure");
        }
        if (asItIs.moved().isEmpty()) {
            cell("No channel moves: none stands where the two laws differ.", 0, 1, "muted");
        }
        mono.setText(monoInWords(model.levels()));
    }

    private void cell(String text, int column, int row, String style) {
        Label label = new Label(text);
        label.getStyleClass().add(style);
        list.add(label, column, row);
    }

    private static String db(double value) {
        return LevelText.signed(value, 2, true) + " dB";
    }

    /** How the mix as it is now stands in mono. */
    private static String monoInWords(SessionLevels levels) {
        var mix = levels.mainSeries();
        double change = mix == null ? Double.NaN : Average.monoChangeDb(mix);
        return Double.isNaN(change)
                ? ""
                : "Mono check of the mix as it is: left and right summed are " + db(change)
                        + " against the two sides (0 dB where both sides are alike, "
                        + LevelText.signed(-3.01, 2, true) + " dB where they have nothing in common).";
    }

    private void take(boolean keepingLevels) {
        PanLaw law = wanted;
        leave();
        if (law != null) {
            model.edit(PanLawChange.of(model.session(), law, keepingLevels).edit());
        }
    }

    @Override
    protected void putAway() {
        wanted = null;
    }
}
