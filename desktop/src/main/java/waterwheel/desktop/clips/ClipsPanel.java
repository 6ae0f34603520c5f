package waterwheel.desktop.clips;

import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.filefacts.FlattenedRun;
import waterwheel.core.rides.Curve;
import waterwheel.core.session.Clip;
import waterwheel.core.staging.Calm;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.clips.ClipsModel.View;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.model.SessionModel;

/** The selected track's clips, one at a time: as they sound, with gain, fades, gain curve and calm. */
public final class ClipsPanel extends BottomPanel {
    /** How much is in sight around a flattened place. */
    private static final long CLOSE_FRAMES = 400;

    private final SessionModel session;
    private final ClipsModel model;
    private final ClipPicture picture;
    private final Label title = new Label();
    private final Label which = new Label();
    private final Label cursor = new Label();
    private final ValueField start;
    private final DbField gain;
    private final ValueField fadeIn;
    private final ValueField fadeOut;
    private final ValueField range;
    private final ValueField amount;
    private final ValueField smoothing;
    private final Button previous = new SmallButton("Previous", "The clip before this one");
    private final Button next = new SmallButton("Next", "The clip after this one");
    private final Button flattened =
            new SmallButton("Next flattened", "Show the next flattened place, sample by sample");
    private final Button propose = new SmallButton(
            "Propose calm",
            "Show a gain curve that brings phrases nearer to the"
                    + " clip's average; nothing changes until it is accepted");
    private final Button accept = new SmallButton("Accept", "Make the proposed curve the clip's gain curve");
    private final Button discard = new SmallButton("Discard", "Drop the proposed curve");
    private final ChoiceBox<ClipCurve> curves = new ChoiceBox<>();
    private final Button remove = new SmallButton("Remove curve", "Take the curve that is drawn away");
    private final Button copy =
            new SmallButton("Copy behind", "Put a copy of the clip, with its curves, right behind its end");
    private final Button removeClip = new SmallButton("Remove clip", "Take the clip off the track; its file stays");
    /** True while the choice of curves is set to what is drawn. */
    private boolean showing;

    public ClipsPanel(SessionModel session) {
        this.session = session;
        model = new ClipsModel(session);
        picture = new ClipPicture(model);
        VBox.setVgrow(picture, Priority.ALWAYS);
        start = new ValueField(
                "Where the clip begins",
                "s",
                3,
                0.1,
                seconds -> edit(v -> ClipEdits.move(v.track(), v.index(), Math.round(seconds * rate()))));
        gain = new DbField("Gain of the clip", db -> edit(v -> ClipEdits.gain(v.track(), v.index(), db)));
        fadeIn = new ValueField(
                "Fade in", "ms", 0, 10, ms -> edit(v -> ClipEdits.fadeIn(v.track(), v.index(), frames(ms))));
        fadeOut = new ValueField(
                "Fade out", "ms", 0, 10, ms -> edit(v -> ClipEdits.fadeOut(v.track(), v.index(), frames(ms))));
        range = calmField(
                "Range: how far from the average a phrase may lie",
                "dB",
                0.5,
                24,
                (c, v) -> new Calm(v, c.amount(), c.smoothingSeconds()));
        amount = calmField(
                "Amount: which part of what is beyond the range is taken back",
                "%",
                5,
                100,
                (c, v) -> new Calm(c.rangeDb(), v / 100, c.smoothingSeconds()));
        smoothing = calmField(
                "Smoothing: over which time the level is taken and the curve moves",
                "s",
                0.1,
                10,
                (c, v) -> new Calm(c.rangeDb(), c.amount(), Math.max(0.1, v)));
        showCalm();
        title.getStyleClass().add("panel-title");
        which.getStyleClass().add("muted");
        cursor.getStyleClass().addAll("figure", "muted");
        cursor.setMinWidth(Region.USE_PREF_SIZE);
        accept.getStyleClass().add("accent");
        getChildren().addAll(firstLine(), picture, clipLine(), curveLine(), calmLine());
        model.viewProperty().subscribe(this::show);
        model.ghostProperty().subscribe(this::showGhost);
        model.curveProperty().subscribe(kind -> show(model.viewProperty().get()));
        session.keep(model::close);
    }

    private HBox firstLine() {
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button closer = new SmallButton("Closer", "Zoom in around the cursor (plus, or the wheel)");
        Button wider = new SmallButton("Wider", "Zoom out (minus, or the wheel)");
        Button whole = new SmallButton("Whole", "Show the whole clip (Home)");
        Button close = new SmallButton("Close", "Put the clips away (Ctrl+E)");
        closer.setOnAction(event -> zoom(2));
        wider.setOnAction(event -> zoom(0.5));
        whole.setOnAction(event -> model.zoomOut());
        close.setOnAction(event -> toggle());
        previous.setOnAction(event -> step(-1));
        next.setOnAction(event -> step(1));
        flattened.setOnAction(event -> showNextFlattened());
        HBox line = new HBox(8, title, which, previous, next, gap, flattened, closer, wider, whole, close);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private HBox clipLine() {
        remove.setOnAction(event -> edit(v -> drawn().edit(v.track(), v.index(), Curve.NONE)));
        curves.getStyleClass().add("small");
        Hint.on(
                curves,
                "Which of the clip's curves is drawn: its gain, or what it adds to its channel's fader, position or"
                        + " equaliser while it lasts; they move and are copied with the clip");
        curves.setAccessibleText("Which of the clip's curves is drawn");
        curves.setConverter(new Words<>(ClipCurve::name));
        curves.setOnAction(event -> {
            if (!showing && curves.getValue() != null) {
                model.draw(curves.getValue());
            }
        });
        copy.setOnAction(
                event -> edit(v -> ClipEdits.copy(v.track(), v.index(), v.clip().endFrames())));
        removeClip.setOnAction(event -> edit(v -> ClipEdits.remove(v.track(), v.index())));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(
                6,
                words("Starts at"),
                start,
                words("Gain"),
                gain,
                words("Fade in"),
                fadeIn,
                words("Fade out"),
                fadeOut,
                gap,
                copy,
                removeClip);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private HBox curveLine() {
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox line = new HBox(6, words("Curve of"), curves, remove, gap, cursor);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private ClipCurve drawn() {
        return model.curveProperty().get();
    }

    private HBox calmLine() {
        propose.setOnAction(event -> model.proposeCalm());
        accept.setOnAction(event -> model.acceptGhost());
        discard.setOnAction(event -> model.dropGhost());
        HBox line = new HBox(
                6,
                words("Calm what lies beyond"),
                range,
                words("of the average, by"),
                amount,
                words("of the excess, over"),
                smoothing,
                propose,
                accept,
                discard);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Label words(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    /** Changes one of calm's settings. */
    private interface CalmSetting {
        Calm with(Calm before, double value);
    }

    private ValueField calmField(String name, String unit, double step, double most, CalmSetting write) {
        ValueField field = new ValueField(name, unit, unit.equals("%") ? 0 : 1, step, value -> {
            model.setCalm(write.with(model.calm(), Math.clamp(value, 0, most)));
            showCalm();
            if (model.ghostProperty().get() != null) {
                model.proposeCalm();
            }
        });
        field.setPrefColumnCount(4);
        return field;
    }

    private void showCalm() {
        range.setValue(model.calm().rangeDb());
        amount.setValue(100 * model.calm().amount());
        smoothing.setValue(model.calm().smoothingSeconds());
    }

    /** An edit of the clip in sight. */
    private interface ClipEdit {
        Edit of(View view);
    }

    private void edit(ClipEdit edit) {
        View view = model.viewProperty().get();
        if (view != null) {
            model.edit(edit.of(view), "");
        }
    }

    private int rate() {
        return model.session().session().sampleRateHz();
    }

    private long frames(double ms) {
        return Math.round(ms / 1_000 * rate());
    }

    private void zoom(double factor) {
        View view = model.viewProperty().get();
        if (view != null) {
            model.zoom(factor, view.cursor());
        }
    }

    private void step(int by) {
        View view = model.viewProperty().get();
        if (view != null) {
            model.showClip(view.index() + by);
        }
    }

    private void showNextFlattened() {
        View view = model.viewProperty().get();
        if (view == null) {
            return;
        }
        long offset = view.clip().offsetFrames();
        FlattenedRun found = picture.runs(view).stream()
                .filter(run -> run.firstFrame() - offset > view.cursor())
                .findFirst()
                .orElse(picture.runs(view).isEmpty() ? null : picture.runs(view).getFirst());
        if (found != null) {
            model.zoomTo(found.firstFrame() - offset, CLOSE_FRAMES);
        }
    }

    private void show(@Nullable View view) {
        setDisableAll(view == null);
        if (view == null) {
            title.setText("Clips");
            which.setText("Select a track: buses have no clips.");
            cursor.setText("");
            return;
        }
        Clip clip = view.clip();
        int count = view.track().clips().size();
        title.setText("Clips of " + view.track().name());
        which.setText((count == 1 ? "one clip" : "clip " + (view.index() + 1) + " of " + count) + ", "
                + model.session().session().source(clip.source()).fileName() + ", "
                + LevelText.time((double) view.from() / rate()) + " to " + LevelText.time((double) view.to() / rate()));
        previous.setDisable(view.index() == 0);
        next.setDisable(view.index() + 1 == count);
        previous.setVisible(count > 1);
        next.setVisible(count > 1);
        previous.setManaged(count > 1);
        next.setManaged(count > 1);
        boolean lost = !picture.runs(view).isEmpty();
        flattened.setVisible(lost);
        flattened.setManaged(lost);
        start.setValue((double) clip.startFrames() / rate());
        gain.setValue(clip.gainDb());
        fadeIn.setValue(1_000.0 * clip.fadeInFrames() / rate());
        fadeOut.setValue(1_000.0 * clip.fadeOutFrames() / rate());
        showCurve(view);
    }

    private void showCurve(View view) {
        showing = true;
        List<ClipCurve> all = ClipCurve.of(view.track(), view.clip());
        if (!all.equals(curves.getItems())) {
            curves.getItems().setAll(all);
        }
        curves.setValue(drawn());
        showing = false;
        Curve curve = drawn().in(view.clip());
        remove.setDisable(curve.isNone());
        cursor.setText("cursor " + LevelText.time((double) view.cursor() / rate()) + ", curve "
                + drawn().text(curve.at(view.cursor())) + ", peak there " + peakThere(view));
    }

    private String peakThere(View view) {
        double peak = picture.peakAtCursor(view);
        return Double.isNaN(peak) ? "…" : LevelText.level(peak, "dBFS");
    }

    private void setDisableAll(boolean disabled) {
        for (Region part :
                new Region[] {start, curves, copy, removeClip, gain, fadeIn, fadeOut, range, amount, smoothing, propose
                }) {
            part.setDisable(disabled);
        }
        remove.setDisable(disabled);
    }

    private void showGhost(@Nullable Curve ghost) {
        for (Region part : new Region[] {accept, discard}) {
            part.setVisible(ghost != null);
            part.setManaged(ghost != null);
        }
    }

    @Override
    protected Subscription opened() {
        model.setActive(true);
        picture.requestFocus();
        return session.levelsProperty()
                .subscribe(levels -> show(model.viewProperty().get()));
    }

    @Override
    protected void putAway() {
        model.setActive(false);
    }

    /** Proposes a curve that calms the clip in sight. */
    public void proposeCalm() {
        model.proposeCalm();
    }

    /** Whether the answer to the last proposal is there. */
    public boolean settled() {
        return !model.proposing();
    }
}
