package waterwheel.desktop.controls;

import javafx.scene.control.Skin;
import javafx.scene.control.TextField;
import javafx.scene.control.skin.TextFieldSkin;

/**
 * A text field that is drawn as a mere text until the pointer or the keyboard comes to it. Rows have many fields of which
 * few are ever typed in, and what typing needs (a menu with a window of its own, keys, a caret) is made for each.
 */
public class RestingField extends TextField {
    @Override
    protected final Skin<?> createDefaultSkin() {
        return isFocused() ? new TextFieldSkin(this) : new RestingSkin(this);
    }
}
