package waterwheel.desktop.controls;

import java.util.HashMap;
import java.util.Map;
import javafx.event.EventHandler;
import javafx.geometry.HPos;
import javafx.geometry.VPos;
import javafx.scene.control.SkinBase;
import javafx.scene.control.TextField;
import javafx.scene.control.skin.TextFieldSkin;
import javafx.scene.input.MouseEvent;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Font;
import javafx.scene.text.Text;

/** How a text field is drawn that nobody types in; it measures and places its text as one that is typed in does. */
final class RestingSkin extends SkinBase<RestingField> {
    /** How wide a column is, by font; fields have few. */
    private static final Map<Font, Double> COLUMNS = new HashMap<>();

    private final Text text = new Text();
    private final Rectangle seen = new Rectangle();
    /** A pointer that was there before the field, or a finger. */
    private final EventHandler<MouseEvent> pressed = event -> {
        getSkinnable().requestFocus();
        event.consume();
    };

    RestingSkin(RestingField field) {
        super(field);
        text.getStyleClass().addAll("text", "resting-text");
        text.setManaged(false);
        text.setMouseTransparent(true);
        text.textProperty().bind(field.textProperty());
        text.fontProperty().bind(field.fontProperty());
        getChildren().add(text);
        registerChangeListener(field.textProperty(), value -> field.requestLayout());
        registerChangeListener(field.fontProperty(), value -> field.requestLayout());
        registerChangeListener(field.alignmentProperty(), value -> field.requestLayout());
        field.addEventHandler(MouseEvent.MOUSE_PRESSED, pressed);
        registerChangeListener(field.hoverProperty(), value -> wake(field));
        registerChangeListener(field.focusedProperty(), value -> wake(field));
    }

    /** From now on it is typed in. */
    private void wake(TextField field) {
        if (field.getSkin() != this) {
            return;
        }
        field.setSkin(new TextFieldSkin(field));
        field.applyCss();
        field.layout();
        if (field.isFocused() && !field.isHover()) {
            field.selectAll();
        }
    }

    @Override
    public void dispose() {
        getSkinnable().removeEventHandler(MouseEvent.MOUSE_PRESSED, pressed);
        text.textProperty().unbind();
        text.fontProperty().unbind();
        getChildren().remove(text);
        super.dispose();
    }

    @Override
    protected void layoutChildren(double x, double y, double width, double height) {
        TextField field = getSkinnable();
        double length = text.getLayoutBounds().getWidth();
        double ascent = text.getBaselineOffset();
        double descent = text.getLayoutBounds().getHeight() - ascent;
        HPos across = field.getAlignment().getHpos();
        VPos along = field.getAlignment().getVpos();
        double room = Math.max(0, width - length);
        double left = across == HPos.RIGHT ? room : across == HPos.CENTER ? room / 2 : 0;
        double base =
                along == VPos.TOP ? ascent : along == VPos.BOTTOM ? height - descent : (ascent + height - descent) / 2;
        text.setX(x + left);
        text.setY(snapPositionY(y + base));
        seen.setX(x);
        seen.setWidth(width);
        seen.setHeight(field.getHeight());
        text.setClip(length > width ? seen : null);
    }

    @Override
    protected double computePrefWidth(double height, double top, double right, double bottom, double left) {
        return getSkinnable().getPrefColumnCount() * column(getSkinnable().getFont()) + left + right;
    }

    private static double column(Font font) {
        return COLUMNS.computeIfAbsent(font, any -> {
            Text wide = new Text("W");
            wide.setFont(font);
            return wide.getLayoutBounds().getWidth();
        });
    }

    @Override
    protected double computePrefHeight(double width, double top, double right, double bottom, double left) {
        return top + text.getLayoutBounds().getHeight() + bottom;
    }

    @Override
    protected double computeMinHeight(double width, double top, double right, double bottom, double left) {
        return computePrefHeight(width, top, right, bottom, left);
    }

    @Override
    protected double computeMaxHeight(double width, double top, double right, double bottom, double left) {
        return getSkinnable().prefHeight(width);
    }

    @Override
    protected double computeBaselineOffset(double top, double right, double bottom, double left) {
        return top + text.getBaselineOffset();
    }
}
