package waterwheel.desktop.guide;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.commonmark.node.Code;
import org.commonmark.node.Heading;
import org.commonmark.node.ListBlock;
import org.commonmark.node.Node;
import org.commonmark.node.OrderedList;
import org.commonmark.node.SoftLineBreak;
import org.commonmark.node.Text;
import org.commonmark.parser.Parser;

/**
 * The guide, by chapters: a task or a matter each. Written in CommonMark 0.31.
 *
 * @param chapters in reading order
 */
public record Guide(List<Chapter> chapters) {
    /** Where the guide and its pictures are shipped. */
    static final String ROOM = "/waterwheel/desktop/guide/";

    public Guide {
        chapters = List.copyOf(chapters);
    }

    /**
     * What stands under one heading.
     *
     * @param title the heading
     * @param blocks paragraphs, lists and pictures, in order
     */
    public record Chapter(String title, List<Node> blocks) {
        public Chapter {
            blocks = List.copyOf(blocks);
        }

        /** All that it says, a line for each block or step, for searching. */
        public String text() {
            StringBuilder text = new StringBuilder();
            blocks.forEach(block -> text.append(plain(block)).append('\n'));
            return text.toString();
        }

        /** The steps of its task; empty where it has none. */
        public Optional<OrderedList> steps() {
            return blocks.stream()
                    .filter(OrderedList.class::isInstance)
                    .map(OrderedList.class::cast)
                    .findFirst();
        }
    }

    /** The guide that is shipped with the program; read when it is first wanted. */
    public static Guide shipped() {
        return Shipped.GUIDE;
    }

    private static final class Shipped {
        private static final Guide GUIDE = read();
    }

    private static Guide read() {
        try (InputStream in = Objects.requireNonNull(Guide.class.getResourceAsStream(ROOM + "guide.md"))) {
            return of(new String(in.readAllBytes(), StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A guide of a text, a chapter for each of its headings. */
    static Guide of(String markdown) {
        List<Chapter> chapters = new ArrayList<>();
        String title = "";
        List<Node> blocks = new ArrayList<>();
        for (Node block : children(Parser.builder().build().parse(markdown))) {
            if (block instanceof Heading) {
                if (!blocks.isEmpty()) {
                    chapters.add(new Chapter(title, blocks));
                }
                title = plain(block);
                blocks = new ArrayList<>();
            } else {
                blocks.add(block);
            }
        }
        chapters.add(new Chapter(title, blocks));
        return new Guide(chapters);
    }

    /** The chapter of a title. */
    public Chapter chapter(String title) {
        return chapters.stream()
                .filter(one -> one.title().equals(title))
                .findFirst()
                .orElseThrow();
    }

    /** What lies directly in a node. */
    public static List<Node> children(Node node) {
        List<Node> children = new ArrayList<>();
        for (Node child = node.getFirstChild(); child != null; child = child.getNext()) {
            children.add(child);
        }
        return children;
    }

    /** What a node says, without its marks; blocks within it on lines of their own. */
    public static String plain(Node node) {
        return switch (node) {
            case Text text -> text.getLiteral();
            case Code code -> code.getLiteral();
            case SoftLineBreak _ -> " ";
            default ->
                children(node).stream()
                        .map(Guide::plain)
                        .collect(Collectors.joining(node instanceof ListBlock ? "\n" : ""));
        };
    }
}
