package waterwheel.desktop.app;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import java.util.Objects;
import javafx.application.Application;
import javafx.scene.Scene;
import javafx.scene.text.Font;

/** Fonts and colours. The look is in {@code waterwheel.css}: palette, then roles, then parts. */
final class Theme {
    /** All four files call their family B612; the ones loaded last are what that name means. */
    private static final String[] FONTS = {
        "B612Mono-Regular.otf", "B612Mono-Bold.otf", "B612-Regular.otf", "B612-Bold.otf"
    };

    private Theme() {}

    static void loadFonts() {
        for (String name : FONTS) {
            Font.loadFont(resource("/waterwheel/desktop/fonts/" + name), 12);
        }
    }

    /** Shows a scene as the settings say. */
    static void apply(Scene scene, Sized sized, Settings settings) {
        apply(scene, settings.light());
        sized.set(scene, settings.percent());
    }

    private static void apply(Scene scene, boolean light) {
        Application.setUserAgentStylesheet(
                light ? new PrimerLight().getUserAgentStylesheet() : new PrimerDark().getUserAgentStylesheet());
        scene.getStylesheets().setAll(resource("/waterwheel/desktop/waterwheel.css"));
        scene.getRoot().getStyleClass().removeAll("light", "dark");
        scene.getRoot().getStyleClass().add(light ? "light" : "dark");
    }

    private static String resource(String path) {
        return Objects.requireNonNull(Theme.class.getResource(path), path).toExternalForm();
    }
}
