package waterwheel.desktop.notes;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.instruments.Instrument.Synth;
import waterwheel.core.instruments.SynthParameter;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Track;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.model.SessionModel;

/** What plays the notes: the parameters of the synthesised instrument, or what a sample player has. */
final class SoundLine extends HBox {
    private final SessionModel model;
    private final Label what = new Label();
    private final List<Field> fields = new ArrayList<>();

    /** A parameter. */
    private record Field(ValueField field, Label name) {}

    SoundLine(SessionModel model) {
        super(6);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        what.getStyleClass().add("muted");
        what.setMinWidth(0);
        Hint.wholeText(what);
        getChildren().add(what);
        for (int i = 0; i < Synth.PARAMETERS.size(); i++) {
            add(i, Synth.PARAMETERS.get(i));
        }
    }

    private void add(int index, SynthParameter parameter) {
        int decimals = parameter.step() < 0.01 ? 3 : 2;
        ValueField field = new ValueField(
                parameter.label() + " of the sound", parameter.unit(), decimals, parameter.step(), typed -> {
                    if (model.selectedChannel() instanceof Track track
                            && track.played().map(Feed.Played::instrument).orElse(null) instanceof Synth synth) {
                        model.edit(NoteEdits.instrument(track, synth.with(index, typed), List.of()));
                    }
                });
        field.setPrefColumnCount(4);
        Label label = new Label(parameter.label());
        label.getStyleClass().add("muted");
        label.setMinWidth(USE_PREF_SIZE);
        fields.add(new Field(field, label));
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
                double[] values = struck.values();
                for (int i = 0; i < values.length; i++) {
                    fields.get(i).field().setValue(values[i]);
                }
            }
            case Instrument.Sampler sampler ->
                what.setText(sampler.regions().size() + " samples, outputs "
                        + sampler.outputs().stream().map(String::valueOf).collect(Collectors.joining(", ")));
        }
    }
}
