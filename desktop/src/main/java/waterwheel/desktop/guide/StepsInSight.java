package waterwheel.desktop.guide;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.desktop.controls.SmallButton;

/** The steps of one task under the view, while they are done. */
public final class StepsInSight extends VBox {
    private static final double MOST_HEIGHT = 150;

    private final Label title = new Label();
    private final ScrollPane scroll = new ScrollPane();

    /** Makes it, out of sight. */
    public StepsInSight() {
        getStyleClass().addAll("clips-panel", "guide-steps");
        title.getStyleClass().add("panel-title");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button close = new SmallButton("Close", "Put the steps away");
        close.setOnAction(event -> shown(false));
        HBox heading = new HBox(8, title, gap, close);
        heading.setAlignment(Pos.CENTER_LEFT);
        scroll.setFitToWidth(true);
        scroll.setMaxHeight(MOST_HEIGHT);
        scroll.setAccessibleText("Steps of the task");
        scroll.setTooltip(new Tooltip("What to do, in this order"));
        getChildren().addAll(heading, scroll);
        shown(false);
    }

    /** Shows the steps of a chapter. */
    public void show(Guide.Chapter chapter) {
        chapter.steps().ifPresent(steps -> {
            title.setText(chapter.title());
            VBox list = Prose.list(steps);
            scroll.setContent(list);
            list.heightProperty().subscribe(height -> {
                double fitting = Math.min(MOST_HEIGHT, height.doubleValue() + 2);
                scroll.setMinHeight(fitting);
                scroll.setPrefHeight(fitting);
            });
            shown(true);
        });
    }

    private void shown(boolean shown) {
        setVisible(shown);
        setManaged(shown);
    }
}
