package waterwheel.desktop.path;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.errors.RoutingException;
import waterwheel.core.path.Stage;
import waterwheel.core.routing.Connections;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.PlaceText;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** The controls of a channel's stages: what each sends, and how each shows the channel as it is. */
final class StageControls {
    /** A stage's control with the way in which it shows the channel. */
    record Control(Node node, Consumer<Channel> update) {
        void show(Channel channel) {
            update.accept(channel);
        }
    }

    private static final PseudoClass OWN = PseudoClass.getPseudoClass("own");

    private final SessionModel model;
    private final ShownChannel shown;
    /** True while controls are being set to what the session says, so that they do not send it back. */
    private boolean showing;

    StageControls(SessionModel model, ShownChannel shown) {
        this.model = model;
        this.shown = shown;
    }

    private Channel channel() {
        return shown.channel();
    }

    private ControlId control(String key) {
        return ControlId.ofStrip(shown.id(), key);
    }

    private void quietly(Runnable change) {
        showing = true;
        change.run();
        showing = false;
    }

    Control source() {
        Label file = new Label();
        file.getStyleClass().add("muted");
        Hint.wholeText(file);
        file.setMinWidth(0);
        file.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(file, Priority.ALWAYS);
        ChoiceBox<Track.Kind> kind = choice(
                "Kind of material: sustained is set by average, percussive by peak, cues stay out of the mix",
                List.of(Track.Kind.values()),
                Track.Kind::label,
                value -> {
                    if (channel() instanceof Track now) {
                        model.edit(Edits.kind(now, value));
                    }
                });
        kind.setMinWidth(106);
        DbField reference = new DbField("0 VU of this track, -24 to -12", "dBFS", this::setReference);
        reference.setPrefColumnCount(7);
        Label vu = new Label("0 VU at");
        vu.getStyleClass().add("muted");
        vu.setMinWidth(Region.USE_PREF_SIZE);
        return new Control(new VBox(2, line(file), line(kind, vu, reference)), c -> {
            if (c instanceof Track now) {
                file.setText(now.clips().isEmpty() ? fed(now) : files(now));
                quietly(() -> kind.setValue(now.kind()));
                reference.setValue(model.session().referenceDbfs(now));
                reference.pseudoClassStateChanged(OWN, now.ownReferenceDbfs().isPresent());
            }
        });
    }

    private String files(Track track) {
        return track.clips().stream()
                .map(clip -> describe(model.session().source(clip.source())))
                .collect(Collectors.joining(", "));
    }

    /** What feeds a track without clips. */
    private String fed(Track track) {
        return switch (track.feed()) {
            case Feed.Played played ->
                played.instrument().name() + ", " + played.notes().notes().size() + " notes";
            case Feed.Output output ->
                "output " + output.output() + " of "
                        + model.session()
                                .find(output.player())
                                .map(Channel::name)
                                .orElse("an instrument that is gone");
            case Feed.Clips _, Feed.Tapped _, Feed.Input _ -> "no clips";
        };
    }

    /** What plays a track's notes, and the notes. */
    Control notes(Runnable open, WorkLine work) {
        SmallButton edit = new SmallButton("Notes", "Show the notes: move, transpose, scale, align (Ctrl+E)");
        edit.setOnAction(event -> open.run());
        Label what = new Label();
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        what.setMaxWidth(Double.MAX_VALUE);
        Hint.wholeText(what);
        HBox.setHgrow(what, Priority.ALWAYS);
        return new Control(line(what, new SoundMenu(model, work, shown), edit), c -> {
            if (c instanceof Track now) {
                what.setText(fed(now));
            }
        });
    }

    /** The session's own level makes the track follow the session again. */
    private void setReference(double dbfs) {
        double value = Math.clamp(dbfs, -24, -12);
        OptionalDouble own = value == model.session().nominalDbfs() ? OptionalDouble.empty() : OptionalDouble.of(value);
        model.edit(Edits.forEach("Reference", model.meantTracks(channel()), track -> Edits.reference(track, own)));
    }

    private List<Channel> meant() {
        return model.meant(channel());
    }

    Control clips(Runnable open) {
        DbField gain = new DbField("Gain of the clips", this::setClipGain);
        Label what = new Label();
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        what.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(what, Priority.ALWAYS);
        SmallButton edit = new SmallButton("Clips", "Show the clips: waveform, fades, gain curve, calm (Ctrl+E)");
        edit.setOnAction(event -> open.run());
        return new Control(line(gain, what, edit), c -> {
            if (c instanceof Track now) {
                gain.setDisable(now.clips().isEmpty());
                gain.setValue(now.clips().isEmpty() ? 0 : now.clips().getFirst().gainDb());
                what.setText(inWords(now.clips()));
            }
        });
    }

    private static String inWords(List<Clip> clips) {
        long shaped = clips.stream().filter(Clip::shaped).count();
        boolean unlike = clips.stream()
                .anyMatch(clip -> clip.gainDb() != clips.getFirst().gainDb());
        return (clips.size() == 1 ? "one clip" : clips.size() + " clips")
                + (unlike ? ", the first" : "")
                + (shaped > 0 ? ", shaped" : "");
    }

    /** Moves all clips by what the first one moves, so that gains that differ keep their distance. */
    private void setClipGain(double db) {
        if (channel() instanceof Track track && !track.clips().isEmpty()) {
            double by = db - track.clips().getFirst().gainDb();
            model.edit(Edits.forEach("Clip gain", model.meantTracks(track), each -> ClipEdits.gainsBy(each, by)));
        }
    }

    private static String describe(AudioSource source) {
        return source.fileName() + ", " + source.encoding();
    }

    Control input() {
        Label inputs = new Label();
        inputs.getStyleClass().add("muted");
        Hint.wholeText(inputs);
        inputs.setMinWidth(0);
        return new Control(line(inputs), c -> {
            String sum = names("Sum of ", Connections.feeding(model.session(), c.id()));
            String sends = names("Sends of ", Connections.sendingTo(model.session(), c.id()));
            String all = sum.isEmpty() || sends.isEmpty() ? sum + sends : sum + "; " + sends;
            inputs.setText(all.isEmpty() ? "Nothing feeds this bus" : all);
        });
    }

    private static String names(String before, List<Channel> channels) {
        return channels.isEmpty()
                ? ""
                : before + channels.stream().map(Channel::name).collect(Collectors.joining(", "));
    }

    Control trim() {
        RideMark[] mark = new RideMark[1];
        DbField field = new DbField("Trim", db -> mark[0].move(db, ""));
        mark[0] = RideMark.on(field, model, () -> control(Strip.TRIM.key()));
        CheckBox polarity = new CheckBox("Invert polarity");
        Hint.on(polarity, "Multiply the signal by minus one");
        polarity.setOnAction(
                event -> model.edit(Edits.forEach("Polarity", meant(), c -> Edits.polarity(c, polarity.isSelected()))));
        Label ridden = ridden();
        return new Control(new VBox(2, line(field, polarity), ridden), c -> {
            showRidden(ridden, Strip.TRIM, Stage.TRIM);
            field.setValue(mark[0].show(c.strip().trimDb()));
            polarity.setSelected(c.strip().polarityInverted());
        });
    }

    Control fader() {
        RideMark[] mark = new RideMark[1];
        Fader fader = new Fader("Fader", Fader.Travel.FADER, 0.1, 0, (db, gesture) -> mark[0].move(db, gesture));
        mark[0] = RideMark.on(fader, model, () -> control(Strip.FADER.key()));
        HBox.setHgrow(fader, Priority.ALWAYS);
        DbField field = new DbField("Fader", db -> mark[0].move(db, ""));
        Label ridden = ridden();
        return new Control(new VBox(2, line(fader, field), ridden), c -> {
            showRidden(ridden, Strip.FADER, Stage.FADER);
            double shown = mark[0].show(c.strip().faderDb());
            fader.show(shown);
            field.setValue(shown);
        });
    }

    private static Label ridden() {
        Label label = new Label();
        label.getStyleClass().addAll("figure", "muted");
        label.setMinWidth(0);
        Hint.wholeText(label);
        return label;
    }

    /** The range of a ridden stage: the least and the most that it reads, and what it reads at the stage's peak. */
    private void showRidden(Label label, waterwheel.core.rides.Control control, Stage stage) {
        ControlId ridden = control(control.key());
        boolean moves = Controls.moving(model.session(), ridden).isPresent();
        label.setVisible(moves);
        label.setManaged(moves);
        if (!moves) {
            return;
        }
        double[] reach = Controls.reach(model.session(), ridden);
        String text = "ridden " + LevelText.signed(reach[0], 1, true) + " to " + LevelText.change(reach[1]);
        double peak = model.levels()
                .asked(shown.id())
                .map(levels -> levels.at(stage).peakAtSeconds())
                .orElse(Double.NaN);
        if (!Double.isNaN(peak)) {
            long frame = Math.round(peak * model.session().sampleRateHz());
            text += ", at the peak " + LevelText.change(Controls.reading(model.session(), ridden, frame));
        }
        label.setText(text);
    }

    Control placement(int planes) {
        Label where = new Label();
        where.getStyleClass().add("figure");
        where.setMinWidth(86);
        where.setAlignment(Pos.CENTER_RIGHT);
        RideMark[] marks = new RideMark[2];
        Fader position = new Fader(
                "Position, left to right",
                Fader.Travel.even(-1, 1, 0.01),
                0.01,
                0,
                (value, gesture) -> marks[0].move(value, gesture));
        marks[0] = RideMark.on(position, model, () -> control(Placement.POSITION.key()));
        HBox.setHgrow(position, Priority.ALWAYS);
        HBox first = line(position, where);
        if (planes == 1) {
            return new Control(first, c -> {
                double shown = marks[0].show(c.strip().placement().position());
                position.show(shown);
                where.setText(PlaceText.of(shown, 1, false));
            });
        }
        Label wide = new Label();
        wide.getStyleClass().add("figure");
        wide.setMinWidth(86);
        wide.setAlignment(Pos.CENTER_RIGHT);
        Fader width = new Fader(
                "Width, from one place over as recorded to twice as wide",
                Fader.Travel.even(0, 2, 0.01),
                0.01,
                1,
                (value, gesture) -> marks[1].move(value, gesture));
        marks[1] = RideMark.on(width, model, () -> control(Placement.WIDTH.key()));
        HBox.setHgrow(width, Priority.ALWAYS);
        ChoiceBox<Placement.Mode> mode = choice(
                "Place keeps both sides; balance turns the far side down",
                List.of(Placement.Mode.values()),
                m -> m == Placement.Mode.PLACE ? "Place" : "Balance",
                value -> model.edit(
                        Edits.placement(channel(), channel().strip().placement().withMode(value))));
        mode.setMinWidth(86);
        return new Control(new VBox(first, line(mode, width, wide)), c -> {
            Placement now = c.strip().placement();
            double at = marks[0].show(now.position());
            double across = marks[1].show(now.width());
            position.show(at);
            where.setText(PlaceText.of(at, across, false));
            width.show(across);
            wide.setText("width " + Math.round(across * 100) + " %");
            quietly(() -> mode.setValue(now.mode()));
        });
    }

    Control output() {
        RideMark[] mark = new RideMark[1];
        ToggleButton mute = toggle("Mute", "Silence all that leaves the channel (M)", Edits::mute);
        mute.setOnAction(event -> mark[0].move(mute.isSelected() ? 1 : 0, ""));
        mark[0] = RideMark.on(mute, model, () -> control(Strip.MUTED.key()));
        ToggleButton solo = toggle("Solo", "Hear this channel and what it runs through (S)", Edits::solo);
        ToggleButton safe = toggle("Solo-safe", "Go on sounding while others are soloed", Edits::soloSafe);
        mute.getStyleClass().add("mute");
        solo.getStyleClass().add("solo");
        if (shown.isMain()) {
            Label mix = new Label("the mix");
            mix.getStyleClass().add("muted");
            return new Control(line(mute, mix), c -> quietly(() -> showMute(mute, mark[0], c)));
        }
        ChoiceBox<Output> output = choice(
                "Where this channel goes: a bus, a pair of the interface's outputs beside the mix, or nowhere",
                List.of(),
                this::name,
                chosen -> {});
        output.setOnAction(event -> {
            if (!showing && output.getValue() != null) {
                route(output, output.getValue());
            }
        });
        output.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(output, Priority.ALWAYS);
        return new Control(
                line(mute, solo, safe, output),
                c -> quietly(() -> {
                    showMute(mute, mark[0], c);
                    solo.setSelected(c.strip().soloed());
                    safe.setSelected(c.strip().soloSafe());
                    List<Output> all = outputs();
                    if (!all.equals(output.getItems())) {
                        output.getItems().setAll(all);
                    }
                    output.setValue(c.strip().output());
                }));
    }

    private static void showMute(ToggleButton mute, RideMark mark, Channel channel) {
        mute.setSelected(mark.show(channel.strip().muted() ? 1 : 0) >= 0.5);
    }

    private List<Output> outputs() {
        List<Output> all = new ArrayList<>();
        model.session().buses().stream()
                .filter(bus -> !bus.id().equals(shown.id()))
                .forEach(bus -> all.add(Output.to(bus.id())));
        for (int pair = 2; pair <= Output.PAIRS; pair++) {
            all.add(new Output.ToInterface(pair));
        }
        all.add(new Output.Nowhere());
        return all;
    }

    private String name(Output output) {
        return switch (output) {
            case Output.ToBus(ChannelId bus) ->
                model.session().find(bus).map(Channel::name).orElse("");
            case Output.ToInterface pair -> pair.label();
            case Output.Nowhere() -> "nowhere";
        };
    }

    private void route(ChoiceBox<Output> box, Output output) {
        try {
            model.edit(Edits.output(model.session(), channel(), output));
        } catch (RoutingException e) {
            model.tell(e.getMessage());
            quietly(() -> box.setValue(channel().strip().output()));
        }
    }

    private ToggleButton toggle(String name, String explanation, BiFunction<Channel, Boolean, Edit> edit) {
        ToggleButton button = new ToggleButton(name);
        button.getStyleClass().add("small");
        button.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(button, explanation);
        button.setAccessibleText(name);
        button.setOnAction(event -> model.edit(Edits.forEach(name, meant(), c -> edit.apply(c, button.isSelected()))));
        return button;
    }

    private <T> ChoiceBox<T> choice(String explanation, List<T> items, Function<T, String> word, Consumer<T> chosen) {
        ChoiceBox<T> box = new ChoiceBox<>();
        box.getStyleClass().add("small");
        box.getItems().setAll(items);
        Hint.on(box, explanation);
        box.setAccessibleText(explanation);
        box.setConverter(new Words<>(word));
        box.setOnAction(event -> {
            if (!showing && box.getValue() != null) {
                chosen.accept(box.getValue());
            }
        });
        return box;
    }

    private static HBox line(Node... nodes) {
        HBox line = new HBox(8, nodes);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }
}
