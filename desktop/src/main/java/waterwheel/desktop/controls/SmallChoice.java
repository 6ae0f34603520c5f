package waterwheel.desktop.controls;

import java.util.List;
import java.util.function.Function;
import javafx.scene.control.ChoiceBox;

/** A choice among others in a line: small, each item by a word, with a tooltip and a name for screen readers. */
public final class SmallChoice<T> extends ChoiceBox<T> {
    public SmallChoice(List<T> items, Function<T, String> word, String name, String tip) {
        getItems().setAll(items);
        setConverter(new Words<>(word));
        getStyleClass().add("small");
        Hint.on(this, tip);
        setAccessibleText(name);
    }
}
