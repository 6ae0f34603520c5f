package waterwheel.desktop.app;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Locale;
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

    private static final double MENU_FONT = 13;
    private static final double TOOLTIP_FONT = 12;

    private Theme() {}

    /** Before any control is made: the first one would otherwise read a look that is not used. */
    static void prepare(Settings settings) {
        use(settings);
        for (String name : FONTS) {
            Font.loadFont(resource("/waterwheel/desktop/fonts/" + name), 12);
        }
    }

    /** Shows a scene as the settings say. */
    static void apply(Scene scene, Settings settings) {
        use(settings);
        scene.getStylesheets().setAll(resource("/waterwheel/desktop/waterwheel.css"), popups(settings.percent()));
        scene.getRoot().getStyleClass().removeAll("light", "dark");
        scene.getRoot().getStyleClass().add(settings.light() ? "light" : "dark");
    }

    private static void use(Settings settings) {
        Application.setUserAgentStylesheet(
                settings.light()
                        ? new PrimerLight().getUserAgentStylesheet()
                        : new PrimerDark().getUserAgentStylesheet());
    }

    /** Menus and tooltips have windows of their own, and follow by the size of their letters. */
    private static String popups(int percent) {
        String css = String.format(
                Locale.ROOT,
                ".root.popup { -fx-font-size: %.1fpx; } .tooltip { -fx-font-size: %.1fpx; }",
                MENU_FONT * percent / 100,
                TOOLTIP_FONT * percent / 100);
        return "data:text/css;base64," + Base64.getEncoder().encodeToString(css.getBytes(StandardCharsets.UTF_8));
    }

    private static String resource(String path) {
        return Objects.requireNonNull(Theme.class.getResource(path), path).toExternalForm();
    }
}
