package waterwheel.desktop.staging;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.path.Stage;
import waterwheel.core.playback.LivePeaks;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Track;
import waterwheel.core.staging.TrimProposal;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ChannelRow;
import waterwheel.desktop.controls.ColourMark;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.LevelScale;
import waterwheel.desktop.model.SessionModel;

/**
 * One channel on the ruler. Dragging sideways trims it, one undo step a drag. Keys: Left and Right trim by 0.1 dB (Shift
 * 1 dB), Delete puts the trim back to 0 dB, Enter types it, M mutes, S solos, A accepts what is proposed, Up and Down
 * change the row. Where several rows are selected, trims move together.
 */
final class StagingRow extends ChannelRow {
    private static final PseudoClass PENDING = PseudoClass.getPseudoClass("pending");
    private static final PseudoClass OVER = PseudoClass.getPseudoClass("over");
    private static final PseudoClass MUTED = PseudoClass.getPseudoClass("muted");

    private static int drags;

    private final boolean main;
    private final Region colour = ColourMark.still();
    private final Label name = new Label();
    private final LevelBar bar;
    private final Label average = figure(StagingView.FIGURE_WIDTH);
    private final Label peak = figure(StagingView.FIGURE_WIDTH);
    private final Label headroom = figure(StagingView.FIGURE_WIDTH - 10);
    private final DbField trim;
    private final Label noise = figure(StagingView.FIGURE_WIDTH - 10);
    private final Label proposed = figure(StagingView.PROPOSED_WIDTH);
    private final StagingModel staging;
    private double dragFromX;
    private Map<ChannelId, Double> dragFromDb = Map.of();
    private boolean mayNarrow;
    private String drag = "";

    StagingRow(SessionModel model, StagingModel staging, Channel channel) {
        super(model, channel.id());
        this.staging = staging;
        this.main = id.equals(model.session().mainId());
        getStyleClass().add("staging-row");
        setAccessibleRole(AccessibleRole.SLIDER);
        name.setMinWidth(StagingView.NAME_WIDTH);
        name.setMaxWidth(StagingView.NAME_WIDTH);
        name.getStyleClass().add("channel-name");
        bar = new LevelBar(model.session().nominalDbfs());
        HBox.setHgrow(bar, Priority.ALWAYS);
        trim = new DbField("Trim of " + channel.name(), db -> model.edit(Edits.trim(channel(), db)));
        trim.setMinWidth(StagingView.TRIM_WIDTH);
        trim.setMaxWidth(StagingView.TRIM_WIDTH);
        trim.setFocusTraversable(false);
        proposed.getStyleClass().add("proposed");
        getChildren().addAll(colour, name, bar, average, peak, headroom, noise, trim, proposed);
        String drag = "Drag sideways to trim, or Left and Right (Shift for 1 dB); Delete resets, Enter types,"
                + " M mutes, S solos, A accepts a proposal; Shift+Up and Down, Ctrl+click and Shift+click"
                + " select several";
        Hint.on(bar, drag);
        Hint.on(name, drag);
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::begin);
        addEventHandler(MouseEvent.MOUSE_DRAGGED, this::dragTo);
        addEventHandler(MouseEvent.MOUSE_RELEASED, this::release);
        addEventHandler(MouseEvent.MOUSE_CLICKED, event -> {
            if (event.getClickCount() == 2) {
                model.edit(Edits.trim(channel(), 0));
            }
        });
        setOnKeyPressed(this::key);
    }

    private static Label figure(double width) {
        Label label = new Label();
        label.getStyleClass().add("figure");
        label.setMinWidth(width);
        label.setMaxWidth(width);
        label.setAlignment(Pos.CENTER_RIGHT);
        return label;
    }

    private Channel channel() {
        return model.session().channel(id);
    }

    private void begin(MouseEvent event) {
        if (event.getButton() == MouseButton.PRIMARY) {
            press(event);
            dragFromX = along(event);
            dragFromDb = trims();
            drag = "trim drag " + ++drags;
        }
    }

    @Override
    protected void pressAlone() {
        if (selected()) {
            // A drag of one of several moves them all; a click alone will select it alone.
            mayNarrow = true;
        } else {
            model.select(id);
        }
    }

    private void dragTo(MouseEvent event) {
        if (event.isPrimaryButtonDown()) {
            trimTo(along(event));
        }
    }

    /** A quick hand lets go before its last movement was told, so the place of release counts too. */
    private void release(MouseEvent event) {
        trimTo(along(event));
        drag = "";
        if (mayNarrow && along(event) == dragFromX) {
            model.select(id);
        }
        mayNarrow = false;
    }

    /** Where along the row, which may be shown larger than it is. */
    private double along(MouseEvent event) {
        return sceneToLocal(event.getSceneX(), event.getSceneY()).getX();
    }

    private void trimTo(double x) {
        if (!drag.isEmpty() && x != dragFromX) {
            double by = Math.round(LevelScale.dbOf(x - dragFromX, bar.getWidth()) * 10) / 10.0;
            model.edit(trimsFrom(dragFromDb, by), drag);
        }
    }

    private void key(KeyEvent event) {
        if (inField(event)) {
            return;
        }
        double step = event.isShiftDown() ? 1 : 0.1;
        boolean taken = !event.isShortcutDown();
        if (taken) {
            switch (event.getCode()) {
                case RIGHT -> trimBy(step);
                case LEFT -> trimBy(-step);
                case DELETE, BACK_SPACE -> model.edit(Edits.trim(channel(), 0));
                case ENTER -> trim.requestFocus();
                case M -> model.edit(Edits.mute(channel(), !channel().strip().muted()));
                case S -> model.edit(Edits.solo(channel(), !channel().strip().soloed()));
                case A -> staging.accept(model.selectionProperty().get());
                case UP -> neighbour(-1, event.isShiftDown());
                case DOWN -> neighbour(1, event.isShiftDown());
                default -> taken = false;
            }
        }
        if (taken) {
            event.consume();
        }
    }

    private void trimBy(double db) {
        model.edit(trimsFrom(trims(), db));
    }

    /** The trims of all selected channels, which this row is one of. */
    private Map<ChannelId, Double> trims() {
        Map<ChannelId, Double> trims = new LinkedHashMap<>();
        model.selection().forEach(c -> trims.put(c.id(), c.strip().trimDb()));
        return trims;
    }

    private Edit trimsFrom(Map<ChannelId, Double> from, double by) {
        Map<ChannelId, Double> moved = new LinkedHashMap<>();
        from.forEach((channel, db) -> moved.put(channel, Math.round((db + by) * 100) / 100.0));
        return moved.size() == 1
                ? Edits.trim(channel(), moved.values().iterator().next())
                : Edits.trims(moved);
    }

    /** Shows the channel and its levels as they are now. */
    void update() {
        Channel channel = channel();
        boolean muted = Faders.of(model.session()).muted(channel);
        boolean soloed = channel.strip().soloed();
        name.setText(channel.name() + (muted ? " (muted)" : soloed ? " (solo)" : ""));
        ColourMark.paint(colour, channel instanceof Track track ? track.colour() : Track.Colour.NONE);
        pseudoClassStateChanged(MUTED, muted);
        trim.setValue(channel.strip().trimDb());
        bar.setNominal(model.session().referenceDbfs(channel));
        setTarget(channel);
        ChannelLevels levels = model.levels().asked(id).orElse(null);
        boolean known = levels != null;
        for (Label label : new Label[] {average, peak, headroom}) {
            label.pseudoClassStateChanged(PENDING, !known);
        }
        if (levels == null) {
            bar.showPending();
            return;
        }
        Figures figures = levels.at(main ? Stage.OUTPUT : Stage.TRIM);
        bar.show(figures);
        average.setText(LevelText.level(figures.averageDbfs(), "dBFS"));
        peak.setText(LevelText.level(figures.samplePeakDbfs(), "dBFS"));
        headroom.setText(figures.silent() ? "silent" : LevelText.signed(figures.headroomDb(), 1, true) + " dB");
        boolean over = figures.headroomDb() < 0;
        peak.pseudoClassStateChanged(OVER, over);
        headroom.pseudoClassStateChanged(OVER, over);
        setAccessibleText(channel.name() + ", average " + average.getText() + ", peak " + peak.getText() + ", trim "
                + trim.getText() + (over ? ", over full scale" : ""));
    }

    /** Shows what is proposed for the channel beside its present level. */
    void showProposal(TrimProposals all) {
        TrimProposal one = all.of(id).orElse(null);
        proposed.setVisible(!all.isEmpty());
        proposed.setManaged(!all.isEmpty());
        // The ruler needs the room, and the headroom that matters now is the one that would result.
        headroom.setVisible(all.isEmpty());
        headroom.setManaged(all.isEmpty());
        noise.setVisible(!all.isEmpty());
        noise.setManaged(!all.isEmpty());
        if (one == null) {
            bar.showGhost(Double.NaN, Double.NaN);
            noise.setText("");
            proposed.setText("");
            Hint.on(proposed, null);
            return;
        }
        bar.showGhost(one.averageDbfs(), one.peakDbfs());
        noise.setText(LevelText.signed(one.noiseFloorDbfs(), 1, true));
        noise.pseudoClassStateChanged(OVER, one.noisy());
        String mark = one.noisy() ? " noise" : one.reason() == TrimProposal.Reason.GUARD ? " guard" : "";
        String gain = gainInWords(one);
        proposed.setText(gain + mark);
        Hint.on(
                proposed,
                "Proposed " + (one.clipGainsDb().isEmpty() ? "trim " : "clip gain ") + gain + ", "
                        + one.reason().words() + ": average " + LevelText.level(one.averageDbfs(), "dBFS") + ", peak "
                        + LevelText.level(one.peakDbfs(), "dBFS") + ", noise floor "
                        + LevelText.level(one.noiseFloorDbfs(), "dBFS")
                        + (one.noisy() ? ", which is above the session's threshold" : ""));
    }

    private static String gainInWords(TrimProposal one) {
        List<Double> clips = one.clipGainsDb();
        return clips.isEmpty()
                ? LevelText.change(one.proposedDb())
                : clips.size() == 1 ? LevelText.change(clips.getFirst()) : clips.size() + " clips";
    }

    /** Sustained material is set by average around nominal, percussive by peak, the mix by its headroom. */
    private void setTarget(Channel channel) {
        switch (channel) {
            case Bus _ -> {
                if (main) {
                    bar.setTarget(-6, -3);
                }
            }
            case Track track -> {
                double nominal = model.session().referenceDbfs(track);
                switch (track.kind()) {
                    case SUSTAINED -> bar.setTarget(nominal - 2, nominal + 2);
                    case PERCUSSIVE -> {
                        double peakTarget = model.session().staging().percussivePeakDbfs();
                        bar.setTarget(peakTarget - 2, peakTarget + 2);
                    }
                    case CUE -> bar.setTarget(Double.NaN, Double.NaN);
                }
            }
        }
    }

    void showLive(LivePeaks peaks, double seconds) {
        bar.showLive(main ? peaks.mix() : peaks.at(id, Stage.TRIM), seconds);
    }
}
