package waterwheel.desktop.controls;

import java.util.function.Function;
import javafx.util.StringConverter;

/** Shows the items of a choice by a word; nobody types one. */
public final class Words<T> extends StringConverter<T> {
    private final Function<T, String> word;

    public Words(Function<T, String> word) {
        this.word = word;
    }

    @Override
    public String toString(T item) {
        return item == null ? "" : word.apply(item);
    }

    @Override
    public T fromString(String text) {
        throw new IllegalStateException("text: " + text + " (expected: a choice, not a text)");
    }
}
