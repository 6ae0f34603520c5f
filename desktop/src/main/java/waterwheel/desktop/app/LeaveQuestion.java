package waterwheel.desktop.app;

import java.util.Optional;
import java.util.function.BooleanSupplier;
import javafx.scene.control.Alert;
import javafx.scene.control.ButtonBar;
import javafx.scene.control.ButtonType;
import javafx.stage.Stage;

/** Asks before work that is not saved would be lost. */
final class LeaveQuestion {
    private LeaveQuestion() {}

    /**
     * Whether what has unsaved changes may go.
     *
     * @param what its name, as the question says it
     * @param save tries to save it
     * @param unsaved whether it still has unsaved changes
     */
    static boolean mayLeave(Stage stage, String what, Runnable save, BooleanSupplier unsaved) {
        ButtonType saving = new ButtonType("Save", ButtonBar.ButtonData.YES);
        ButtonType discard = new ButtonType("Leave without saving", ButtonBar.ButtonData.NO);
        Alert question = new Alert(
                Alert.AlertType.CONFIRMATION,
                "The changes to " + what + " are not saved.",
                saving,
                discard,
                ButtonType.CANCEL);
        question.initOwner(stage);
        question.setHeaderText(null);
        Optional<ButtonType> answer = question.showAndWait();
        if (answer.filter(saving::equals).isPresent()) {
            save.run();
            return !unsaved.getAsBoolean();
        }
        return answer.filter(discard::equals).isPresent();
    }
}
