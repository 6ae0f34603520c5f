package waterwheel.desktop.guide;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Subscription;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Sight;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.frame.BottomPanel;

/** The steps of one task under the view, while they are done. */
public final class StepsInSight extends BottomPanel {
    private static final double MOST_HEIGHT = 150;

    private final Label title = new Label();
    private final ScrollPane scroll = new ScrollPane();

    /** Makes it, out of sight. */
    public StepsInSight() {
        getStyleClass().add("guide-steps");
        title.getStyleClass().add("panel-title");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button close = new SmallButton("Close", "Put the steps away");
        close.setOnAction(event -> toggle());
        HBox heading = new HBox(8, title, gap, close);
        heading.setAlignment(Pos.CENTER_LEFT);
        scroll.setFitToWidth(true);
        scroll.setAccessibleText("Steps of the task");
        Hint.on(scroll, "What to do, in this order");
        getChildren().addAll(heading, scroll);
    }

    /** Shows the steps of a chapter. */
    public void show(Guide.Chapter chapter) {
        chapter.steps().ifPresent(steps -> {
            title.setText(chapter.title());
            Sight.fit(scroll, Prose.list(steps), MOST_HEIGHT);
            open();
        });
    }

    /** Steps stay as they are: there is nothing to hear of. */
    @Override
    protected Subscription opened() {
        return Subscription.EMPTY;
    }
}
