package waterwheel.desktop.frame;

import javafx.animation.PauseTransition;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.util.Duration;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.Messages;

/** What the user should be told, in a line that waits for nobody and goes by itself. */
public final class MessageLine extends HBox implements Messages {
    private final Label text = new Label();
    private final HBox choices = new HBox(8);
    private final PauseTransition rest = new PauseTransition(Duration.seconds(15));

    public MessageLine() {
        getStyleClass().add("message-line");
        setAlignment(Pos.CENTER_LEFT);
        text.setWrapText(true);
        text.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(text, Priority.ALWAYS);
        Button close = new SmallButton("Close", "Put the message away");
        close.setOnAction(event -> hide());
        getChildren().addAll(text, choices, close);
        choices.setAlignment(Pos.CENTER_RIGHT);
        rest.setOnFinished(event -> hide());
        hide();
    }

    @Override
    public void tell(String sentence) {
        choices.getChildren().clear();
        text.setText(sentence);
        setVisible(true);
        setManaged(true);
        rest.playFromStart();
    }

    @Override
    public void offer(String sentence, Choice... offered) {
        tell(sentence);
        rest.stop();
        for (Choice choice : offered) {
            Button button = new SmallButton(choice.name(), choice.tip());
            button.setOnAction(event -> {
                hide();
                choice.action().run();
            });
            choices.getChildren().add(button);
        }
    }

    @Override
    public void withdraw() {
        hide();
    }

    private void hide() {
        choices.getChildren().clear();
        setVisible(false);
        setManaged(false);
    }
}
