package waterwheel.desktop.path;

import javafx.event.ActionEvent;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.StackPane;
import waterwheel.core.edit.Edits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.NameField;
import waterwheel.desktop.model.SessionModel;

/** The selected channel's name, which a double click or F3 lets be typed: Enter takes it, Escape leaves it as it was. */
final class ChannelTitle extends StackPane {
    private static final double FIELD_WIDTH = 190;

    private final SessionModel model;
    private final Label name = new Label();
    private final NameField field = new NameField("Name of the channel", FIELD_WIDTH, this::take);
    private ChannelId typing = new ChannelId("none");

    ChannelTitle(SessionModel model) {
        this.model = model;
        name.getStyleClass().add("view-title");
        name.setMinWidth(USE_PREF_SIZE);
        Hint.on(name, "The selected channel; double click, or F3, to name it");
        setMinWidth(USE_PREF_SIZE);
        field.getStyleClass().add("title-field");
        getChildren().addAll(name, field);
        show(false);
        name.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                type();
            }
        });
        field.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
                field.setText(name.getText());
                show(false);
                event.consume();
            }
        });
        field.addEventHandler(ActionEvent.ACTION, event -> show(false));
        field.focusedProperty().subscribe(focused -> {
            if (!focused) {
                show(false);
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

    private void take(String typed) {
        model.session()
                .find(typing)
                .filter(channel -> !typed.equals(channel.name()))
                .ifPresent(channel -> model.edit(Edits.rename(channel, typed)));
    }
}
