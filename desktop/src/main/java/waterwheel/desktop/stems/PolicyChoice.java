package waterwheel.desktop.stems;

import javafx.beans.property.ObjectProperty;
import javafx.geometry.Pos;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Words;

/** The choice of a level policy, with its value where it has one. */
final class PolicyChoice extends HBox {
    /** The policies by name, each with the value that it starts from. */
    private enum Kind {
        AS_MIXED("As mixed, no gain", 0),
        LOUDEST_STEM("Loudest stem's peak to", -1),
        MIX_HEADROOM("Mix keeps a headroom of", 4.5),
        MIX_LOUDNESS("Mix loudness to, LUFS", -23),
        EACH_PEAK("Each stem's peak to", -6),
        EACH_LOUDNESS("Each stem's loudness to, LUFS", -23);

        private final String label;
        private final double start;

        Kind(String label, double start) {
            this.label = label;
            this.start = start;
        }
    }

    private final ChoiceBox<Kind> kind = new ChoiceBox<>();
    private final DbField value;
    private final ObjectProperty<LevelPolicy> policy;

    PolicyChoice(ObjectProperty<LevelPolicy> policy) {
        super(8);
        this.policy = policy;
        setAlignment(Pos.CENTER_LEFT);
        value = new DbField("Value of the level policy", this::choose);
        value.setPrefColumnCount(5);
        kind.getStyleClass().add("small");
        kind.getItems().setAll(Kind.values());
        kind.setConverter(new Words<>(k -> k.label));
        kind.setAccessibleText("Level policy: what sets the gain of every file");
        Hint.on(kind, "The one rule that sets the gain of every file; nothing else changes the level");
        kind.setOnAction(event -> choose(kind.getValue().start));
        kind.setValue(Kind.AS_MIXED);
        Label name = new Label("Level");
        name.setMinWidth(USE_PREF_SIZE);
        getChildren().addAll(name, kind, value);
        choose(0);
    }

    private void choose(double typed) {
        double db =
                switch (kind.getValue()) {
                    case AS_MIXED -> 0;
                    case LOUDEST_STEM, EACH_PEAK ->
                        Math.clamp(typed, LevelPolicy.LEAST_PEAK_DBFS, LevelPolicy.MOST_PEAK_DBFS);
                    case MIX_HEADROOM -> Math.clamp(typed, -LevelPolicy.MOST_PEAK_DBFS, -LevelPolicy.LEAST_PEAK_DBFS);
                    case MIX_LOUDNESS, EACH_LOUDNESS ->
                        Math.clamp(typed, LevelPolicy.LEAST_LUFS, LevelPolicy.MOST_LUFS);
                };
        boolean hasValue = kind.getValue() != Kind.AS_MIXED;
        value.setVisible(hasValue);
        value.setManaged(hasValue);
        value.setValue(db);
        policy.set(
                switch (kind.getValue()) {
                    case AS_MIXED -> new LevelPolicy.AsMixed();
                    case LOUDEST_STEM -> new LevelPolicy.LoudestStemPeak(db);
                    case MIX_HEADROOM -> new LevelPolicy.MixHeadroom(db);
                    case MIX_LOUDNESS -> new LevelPolicy.MixLoudness(db);
                    case EACH_PEAK -> new LevelPolicy.EachPeak(db);
                    case EACH_LOUDNESS -> new LevelPolicy.EachLoudness(db);
                });
    }
}
