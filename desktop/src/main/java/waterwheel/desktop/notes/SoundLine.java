package waterwheel.desktop.notes;

import java.util.ArrayList;
import java.util.List;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Instrument.Synth;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.WholeText;
import waterwheel.desktop.model.SessionModel;

/** What plays the notes: the parameters of the synthesised instrument, or what a sample player has. */
final class SoundLine extends HBox {
    private final SessionModel model;
    private final Label what = new Label();
    private final List<Field> fields = new ArrayList<>();

    /** A parameter. */
    private record Field(ValueField field, Label name, ToDoubleFunction<Synth> value) {}

    /** Changes one parameter. */
    private interface Change {
        Synth of(Synth synth, double value);
    }

    SoundLine(SessionModel model) {
        super(6);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        WholeText.onHover(what);
        getChildren().add(what);
        add(
                "Decay",
                "s",
                0.05,
                12,
                2,
                0.1,
                Synth::decaySeconds,
                (s, v) -> new Synth(
                        s.name(),
                        v,
                        s.brightness(),
                        s.damping(),
                        s.stiffness(),
                        s.position(),
                        s.strike(),
                        s.releaseSeconds()));
        add(
                "Bright",
                "",
                0,
                1,
                2,
                0.05,
                Synth::brightness,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        v,
                        s.damping(),
                        s.stiffness(),
                        s.position(),
                        s.strike(),
                        s.releaseSeconds()));
        add(
                "Damped",
                "",
                0,
                1,
                2,
                0.05,
                Synth::damping,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        s.brightness(),
                        v,
                        s.stiffness(),
                        s.position(),
                        s.strike(),
                        s.releaseSeconds()));
        add(
                "Stiff",
                "",
                0,
                1,
                3,
                0.005,
                Synth::stiffness,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        s.brightness(),
                        s.damping(),
                        v,
                        s.position(),
                        s.strike(),
                        s.releaseSeconds()));
        add(
                "Place",
                "",
                0.02,
                0.5,
                2,
                0.01,
                Synth::position,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        s.brightness(),
                        s.damping(),
                        s.stiffness(),
                        v,
                        s.strike(),
                        s.releaseSeconds()));
        add(
                "Strike",
                "",
                0,
                1,
                2,
                0.05,
                Synth::strike,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        s.brightness(),
                        s.damping(),
                        s.stiffness(),
                        s.position(),
                        v,
                        s.releaseSeconds()));
        add(
                "Release",
                "s",
                0.01,
                12,
                2,
                0.05,
                Synth::releaseSeconds,
                (s, v) -> new Synth(
                        s.name(),
                        s.decaySeconds(),
                        s.brightness(),
                        s.damping(),
                        s.stiffness(),
                        s.position(),
                        s.strike(),
                        v));
    }

    private void add(
            String name,
            String unit,
            double least,
            double most,
            int decimals,
            double step,
            ToDoubleFunction<Synth> value,
            Change change) {
        ValueField field = new ValueField(name + " of the sound", unit, decimals, step, typed -> {
            if (model.selectedChannel() instanceof Track track
                    && track.played().map(p -> p.instrument()).orElse(null) instanceof Synth synth) {
                model.edit(NoteEdits.instrument(track, change.of(synth, Math.clamp(typed, least, most)), List.of()));
            }
        });
        field.setPrefColumnCount(4);
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        label.setMinWidth(USE_PREF_SIZE);
        fields.add(new Field(field, label, value));
        getChildren().addAll(label, field);
    }

    void show(Instrument instrument) {
        boolean synth = instrument instanceof Synth;
        for (Field one : fields) {
            one.field().setVisible(synth);
            one.field().setManaged(synth);
            one.name().setVisible(synth);
            one.name().setManaged(synth);
        }
        switch (instrument) {
            case Synth struck -> {
                what.setText("");
                fields.forEach(one -> one.field().setValue(one.value().applyAsDouble(struck)));
            }
            case Instrument.Sampler sampler ->
                what.setText(sampler.regions().size() + " samples, outputs "
                        + sampler.outputs().stream().map(String::valueOf).collect(Collectors.joining(", ")));
        }
    }
}
