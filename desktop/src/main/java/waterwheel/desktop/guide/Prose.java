package waterwheel.desktop.guide;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import javafx.scene.AccessibleRole;
import javafx.scene.control.Label;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;
import org.commonmark.node.BulletList;
import org.commonmark.node.Code;
import org.commonmark.node.Emphasis;
import org.commonmark.node.ListBlock;
import org.commonmark.node.Node;
import org.commonmark.node.OrderedList;
import org.commonmark.node.Paragraph;
import org.commonmark.node.StrongEmphasis;

/** Blocks of the guide as nodes of the screen: paragraphs, lists, pictures. */
final class Prose {
    private static final double NUMBER_WIDTH = 22;
    /** Pictures are drawn as wide as fits, and no wider than this: the application as it is beside its text. */
    private static final double PICTURE_WIDTH = 640;

    private Prose() {}

    /** A node for a block. */
    static javafx.scene.Node of(Node block) {
        return switch (block) {
            case ListBlock list -> list(list);
            case Paragraph paragraph
            when paragraph.getFirstChild() instanceof org.commonmark.node.Image image -> picture(image);
            default -> words(block);
        };
    }

    /** A list, each item behind its number or its dot. */
    static VBox list(ListBlock list) {
        VBox items = new VBox();
        items.getStyleClass().add("guide-list");
        int number = list instanceof OrderedList ordered ? ordered.getMarkerStartNumber() : 1;
        for (Node item : Guide.children(list)) {
            Label mark = new Label(list instanceof BulletList ? "·" : number + ".");
            mark.setMinWidth(NUMBER_WIDTH);
            mark.getStyleClass().add("muted");
            VBox blocks = new VBox();
            Guide.children(item).forEach(block -> blocks.getChildren().add(of(block)));
            HBox.setHgrow(blocks, Priority.ALWAYS);
            items.getChildren().add(new HBox(mark, blocks));
            number++;
        }
        return items;
    }

    private static TextFlow words(Node block) {
        TextFlow flow = new TextFlow();
        flow.getStyleClass().add("guide-words");
        flow.setMinWidth(0);
        flow.getChildren().addAll(runs(block, "guide-text"));
        flow.setAccessibleRole(AccessibleRole.TEXT);
        flow.setAccessibleText(Guide.plain(block));
        return flow;
    }

    private static List<Text> runs(Node block, String style) {
        List<Text> runs = new ArrayList<>();
        for (Node part : Guide.children(block)) {
            switch (part) {
                case org.commonmark.node.Text text -> runs.add(run(text.getLiteral(), style));
                case Code code -> runs.add(run(code.getLiteral(), "guide-keys"));
                case StrongEmphasis strong -> runs.addAll(runs(strong, "guide-name"));
                case Emphasis term -> runs.addAll(runs(term, "guide-term"));
                // A line's end within a paragraph.
                default -> runs.add(run(" ", style));
            }
        }
        return runs;
    }

    private static Text run(String words, String style) {
        Text text = new Text(words);
        text.getStyleClass().add(style);
        return text;
    }

    private static Region picture(org.commonmark.node.Image image) {
        ImageView view = new ImageView(new Image(Objects.requireNonNull(
                Prose.class.getResourceAsStream(Guide.ROOM + image.getDestination()), image.getDestination())));
        view.setPreserveRatio(true);
        view.setSmooth(true);
        view.setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        view.setAccessibleText(Guide.plain(image));
        VBox frame = new VBox(view);
        frame.getStyleClass().add("guide-picture");
        frame.setMinWidth(0);
        frame.setMaxWidth(PICTURE_WIDTH);
        frame.widthProperty().subscribe(width -> view.setFitWidth(Math.min(PICTURE_WIDTH, width.doubleValue())));
        view.setFitWidth(PICTURE_WIDTH / 2);
        return frame;
    }
}
