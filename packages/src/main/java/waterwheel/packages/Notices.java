package waterwheel.packages;

import java.util.List;
import java.util.stream.Collectors;

/** Whose work is part of the packages: every library with its version and licence, and the fonts. */
final class Notices {
    private static final String HEAD = """
        # Notices

        Waterwheel stands under the Apache License 2.0. Its packages contain these, unchanged but for the module
        descriptors that some got to be linked, and a Java runtime made of the JDK that built the package (GPL 2 with
        the Classpath Exception; its own notices lie in lib/runtime/legal).

        | library | version | licence | home |
        | --- | --- | --- | --- |
        """;
    private static final String TAIL = """
        | B612 and B612 Mono (fonts) | 1.008 | SIL Open Font License 1.1 | inside waterwheel.desktop, with its text |
        """;

    private Notices() {}

    /** @param libraries a line of the table each */
    static String text(List<String> libraries) {
        return libraries.stream()
                .map(String::strip)
                .filter(line -> line.startsWith("|"))
                .map(line -> line.replace("  ", " "))
                .distinct()
                .sorted(String.CASE_INSENSITIVE_ORDER)
                .collect(Collectors.joining("\n", HEAD, "\n" + TAIL));
    }
}
