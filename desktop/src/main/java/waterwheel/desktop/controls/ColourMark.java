package waterwheel.desktop.controls;

import java.util.function.Consumer;
import javafx.geometry.Side;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.layout.Region;
import waterwheel.core.session.Track;

/** A track's colour as a small mark; pressing it chooses another. Style classes {@code colour-} and the colour's name. */
public final class ColourMark extends Button {
    public static final double WIDTH = 12;

    private final Consumer<Track.Colour> change;
    private Track.Colour shown = Track.Colour.NONE;

    public ColourMark(Consumer<Track.Colour> change) {
        this.change = change;
        getStyleClass().setAll("colour-mark");
        Hint.on(this, "Colour of the track, to find it by");
        setOnAction(event -> choose());
        show(Track.Colour.NONE);
    }

    /** A mark without a choice, for other views. */
    public static Region still() {
        Region mark = new Region();
        paint(mark, Track.Colour.NONE);
        return mark;
    }

    /** Paints a mark that {@link #still} made. */
    public static void paint(Region mark, Track.Colour colour) {
        mark.getStyleClass().setAll("colour-strip", "colour-" + colour.label());
    }

    private void choose() {
        ContextMenu menu = new ContextMenu();
        for (Track.Colour colour : Track.Colour.values()) {
            Region sample = new Region();
            sample.getStyleClass().setAll("colour-sample", "colour-" + colour.label());
            RadioMenuItem item = new RadioMenuItem(colour.label(), sample);
            item.setSelected(colour == shown);
            item.setOnAction(event -> change.accept(colour));
            menu.getItems().add(item);
        }
        menu.show(this, Side.BOTTOM, 0, 0);
    }

    public void show(Track.Colour colour) {
        shown = colour;
        getStyleClass().setAll("colour-mark", "colour-" + colour.label());
        setAccessibleText("Colour: " + colour.label());
    }
}
