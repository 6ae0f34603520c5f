package waterwheel.desktop.controls;

import java.util.function.Consumer;

/** A placement as it reads, and typed: {@code left 40}, {@code centre, 80}. */
final class PlaceField extends TypedField {
    private final Consumer<PlaceText> taken;

    /** @param name of the channel */
    PlaceField(String name, boolean twoSides, Consumer<PlaceText> taken) {
        this.taken = taken;
        getStyleClass().addAll("place-field", "figure");
        setAccessibleText("Placement of " + name + " in words");
        Hint.on(
                this,
                "Placement of " + name + ": type left 40, centre or right 40"
                        + (twoSides ? ", and the width behind a comma, as in centre, 80" : "")
                        + "; Enter takes it, Escape puts it back");
    }

    @Override
    void take(String typed) {
        PlaceText.parse(typed).ifPresent(taken);
    }
}
