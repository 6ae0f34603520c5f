package waterwheel.desktop.path;

import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.StackPane;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.model.SessionModel;

/** The selected channel's name, which a double click or F3 lets be typed: Enter takes it, Escape leaves it as it was. */
final class ChannelTitle extends StackPane {
    private static final double FIELD_WIDTH = 190;

    private final SessionModel model;
    private final Label name = new Label();
    private final TextField field = new TextField();
    private ChannelId typing = new ChannelId("none");

    ChannelTitle(SessionModel model) {
        this.model = model;
        name.getStyleClass().add("view-title");
        name.setMinWidth(USE_PREF_SIZE);
        name.setTooltip(new Tooltip("The selected channel; double click, or F3, to name it"));
        field.getStyleClass().add("name-field");
        field.setMinWidth(FIELD_WIDTH);
        field.setMaxWidth(FIELD_WIDTH);
        field.setAccessibleText("Name of the channel");
        field.setTooltip(new Tooltip("Name of the channel; Enter takes it, Escape leaves it as it was"));
        setMinWidth(USE_PREF_SIZE);
        getChildren().addAll(name, field);
        show(false);
        name.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                type();
            }
        });
        field.setOnAction(event -> take());
        field.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
                show(false);
                event.consume();
            }
        });
        field.focusedProperty().subscribe(focused -> {
            if (!focused && field.isVisible() && getScene() != null) {
                take();
            }
        });
    }

    private void show(boolean typed) {
        field.setVisible(typed);
        field.setManaged(typed);
        name.setVisible(!typed);
        name.setManaged(!typed);
    }

    void show(Channel channel) {
        name.setText(channel.name());
        if (!channel.id().equals(typing)) {
            show(false);
        }
    }

    /** Lets the selected channel's name be typed. */
    void type() {
        Channel channel = model.selectedChannel();
        typing = channel.id();
        field.setText(channel.name());
        show(true);
        field.requestFocus();
        field.selectAll();
    }

    private void take() {
        show(false);
        String typed = field.getText().strip();
        model.session()
                .find(typing)
                .filter(channel -> !typed.isEmpty() && !typed.equals(channel.name()))
                .ifPresent(channel -> model.edit(Edits.rename(channel, typed)));
    }
}
