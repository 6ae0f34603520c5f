package waterwheel.cli;

import java.util.Arrays;
import java.util.function.Function;
import picocli.CommandLine.ITypeConverter;
import picocli.CommandLine.TypeConversionException;

/** Understands one of some words. */
abstract class WordIn<T> implements ITypeConverter<T> {
    private final T[] all;
    private final Function<T, String> word;
    private final String refusal;

    /** @param refusal what is said of another word, after it */
    WordIn(T[] all, Function<T, String> word, String refusal) {
        this.all = all.clone();
        this.word = word;
        this.refusal = refusal;
    }

    @Override
    public T convert(String text) {
        return Arrays.stream(all)
                .filter(one -> word.apply(one).equals(text))
                .findFirst()
                .orElseThrow(() -> new TypeConversionException("'" + text + "' " + refusal));
    }
}
