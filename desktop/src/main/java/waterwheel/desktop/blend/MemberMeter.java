package waterwheel.desktop.blend;

import java.util.List;
import javafx.scene.layout.VBox;
import waterwheel.core.levels.VcaLevel;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.LevelBar;

/** A VCA's meter: its loudest member's level, as one bar, or as two where all members are stereo. */
final class MemberMeter extends VBox {
    private static final double HEIGHT = 16;

    private final LevelBar first;
    private final LevelBar second;

    MemberMeter(double nominalDbfs) {
        first = new LevelBar(nominalDbfs);
        second = new LevelBar(nominalDbfs);
        getStyleClass().add("member-meter");
        getChildren().addAll(first, second);
        one(true);
    }

    private void one(boolean alone) {
        second.setVisible(!alone);
        second.setManaged(!alone);
        for (LevelBar bar : List.of(first, second)) {
            bar.setMinHeight(alone ? HEIGHT : HEIGHT / 2);
            bar.setMaxHeight(alone ? HEIGHT : HEIGHT / 2);
        }
    }

    void show(String loudest, VcaLevel level) {
        one(level.sides().size() == 1);
        first.show(level.sides().getFirst());
        second.show(level.sides().getLast());
        String said = "Loudest member: " + loudest;
        Hint.on(this, said + (level.sides().size() == 1 ? "" : ", left above right"));
        first.setAccessibleText(said + ". " + first.getAccessibleText());
    }

    /** Where a member is being measured, and where there is none. */
    void showPending() {
        first.showPending();
        second.showPending();
        Hint.on(this, "No level to show");
    }
}
