package waterwheel.desktop.outboard;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.playback.ChannelMeter;
import waterwheel.core.rack.PortSide;
import waterwheel.core.rack.RecordingSettings;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Listen;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.model.Recordings;
import waterwheel.desktop.model.Transport;

/** A track that inputs feed: whether it is recorded, how loud it comes in against the zone, and when it is heard. */
final class InputRow extends VBox {
    private static final PseudoClass HOT = PseudoClass.getPseudoClass("hot");
    private static final PseudoClass ON = PseudoClass.getPseudoClass("on");

    private final OutboardModel model;
    private final ChannelId track;
    private final ToggleButton marked = new ToggleButton("Record");
    private final Label name = new Label();
    private final Label port = new Label();
    private final LevelBar bar;
    private final Label level = new Label();
    private final Label judged = new Label();
    private final SmallChoice<Listen> listen = new SmallChoice<>(
            List.of(Listen.values()),
            Listen::label,
            "Listen",
            "When what comes in is heard through this track. A render knows only what was recorded.");
    private final SmallButton check = new SmallButton(
            "Howl?",
            "Plays quiet sweeps on the monitor and tells how far listening to this input is from howling;"
                    + " some fifteen seconds");
    private final SmallButton away = new SmallButton("No input", "Takes the input away from the track; its clips stay");
    private boolean showing;

    InputRow(OutboardModel model, Recordings recordings, ChannelId track) {
        this.model = model;
        this.track = track;
        getStyleClass().add("input-row");
        bar = new LevelBar(model.session().nominalDbfs());
        marked.getStyleClass().addAll("small", "mark-record");
        marked.setMinWidth(USE_PREF_SIZE);
        Hint.on(marked, "Record this track the next time (Song > Record or stop)");
        marked.setOnAction(event -> recordings.mark(track, marked.isSelected()));
        name.getStyleClass().add("loop-channel");
        port.getStyleClass().add("muted");
        Hint.wholeText(name);
        Hint.wholeText(port);
        VBox who = new VBox(name, port);
        who.setMinWidth(LoopRow.NAME_WIDTH);
        who.setMaxWidth(LoopRow.NAME_WIDTH);
        who.setAlignment(Pos.CENTER_LEFT);
        level.getStyleClass().add("figure");
        level.setMinWidth(0);
        Hint.wholeText(level);
        judged.getStyleClass().add("judged");
        judged.setMinWidth(Region.USE_PREF_SIZE);
        HBox figures = new HBox(8, level, judged);
        VBox meter = new VBox(2, bar, figures);
        meter.setAlignment(Pos.CENTER_LEFT);
        meter.setMinWidth(80);
        HBox.setHgrow(meter, Priority.ALWAYS);
        bar.setOnMouseClicked(event -> model.resetInputMeters());
        bar.setFocusTraversable(true);
        bar.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                model.resetInputMeters();
                event.consume();
            }
        });
        Hint.on(
                bar,
                "The level of what comes in, whether or not it is heard; the tick holds the"
                        + " highest sample. A click, or Enter, begins anew.");
        listen.setOnAction(event -> {
            Listen chosen = listen.getValue();
            if (!showing && chosen != null) {
                now().ifPresent(t -> model.listen(t, chosen));
            }
        });

        check.setOnAction(event -> now().ifPresent(model::checkFeedback));
        away.setOnAction(event -> now().ifPresent(t -> model.edit(InputEdits.noInput(t))));
        HBox upper = new HBox(8, marked, who, meter);
        upper.setAlignment(Pos.CENTER_LEFT);
        Label heard = new Label("Listen");
        heard.getStyleClass().add("muted");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox lower = new HBox(8, heard, listen, gap, check, away);
        lower.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(upper, lower);
    }

    ChannelId track() {
        return track;
    }

    private Optional<Track> now() {
        return model.session().tracks().stream()
                .filter(t -> t.id().equals(track))
                .findFirst();
    }

    void show(boolean isMarked) {
        Session session = model.session();
        now().filter(t -> t.input().isPresent()).ifPresent(t -> {
            Feed.Input input = t.input().orElseThrow();
            name.setText(t.name());
            port.setText(session.rack().port(PortSide.INPUT, input.port()).label()
                    + (t.planes() == 2 ? " and " + (input.port() + 1) : ""));
            showing = true;
            listen.setValue(input.listen());
            showing = false;
            marked.setSelected(isMarked);
            RecordingSettings zone = session.rack().recording();
            bar.setTarget(zone.peakFromDbfs(), zone.peakToDbfs());
            bar.setNominal(zone.averageDbfs());
            setAccessibleText(t.name() + " from " + port.getText() + ", listened to: "
                    + input.listen().label() + (isMarked ? ", marked to be recorded" : ""));
        });
    }

    /** Shows the level of what comes in now. */
    void showLevel(Transport transport) {
        now().flatMap(Track::input).ifPresent(input -> {
            List<ChannelMeter> all = transport.inputMeters();
            int from = Math.min(input.port() - 1, all.size());
            int planes = now().map(Track::planes).orElse(1);
            List<ChannelMeter> meters = all.subList(from, Math.min(from + planes, all.size()));
            double average =
                    meters.stream().mapToDouble(ChannelMeter::vuDbfs).max().orElse(Double.NEGATIVE_INFINITY);
            double peak =
                    meters.stream().mapToDouble(ChannelMeter::peakDbfs).max().orElse(Double.NEGATIVE_INFINITY);
            bar.showNow(average, peak);
            if (meters.isEmpty()) {
                level.setText("the interface has no such input");
                judged.setText("");
                return;
            }
            String text = "VU " + LevelText.level(average, "dBFS") + ", peak " + LevelText.level(peak, "dBFS");
            if (!text.equals(level.getText())) {
                level.setText(text);
            }
            String word = model.session().rack().recording().judged(average, peak);
            if (!Objects.equals(word, judged.getText())) {
                judged.setText(word);
            }
            judged.pseudoClassStateChanged(HOT, word.equals("too hot") || word.equals("clips"));
            judged.pseudoClassStateChanged(ON, word.equals("in the zone"));
        });
    }
}
