package waterwheel.desktop.rides;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.staging.HoldLevel;
import waterwheel.core.staging.MakeRoom;
import waterwheel.core.staging.RideProposal;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.rides.RidesModel.Proposed;

/**
 * Rides that are worked out from levels: what they would do, told by section, with how much of it is wanted. They are seen
 * in the lanes as ghosts, and change nothing until they are accepted.
 */
final class ProposalBar extends VBox {
    private final RidesModel model;
    private final Label what = new Label();
    private final Label told = new Label();
    private final SmallButton accept =
            new SmallButton("Accept", "Make the proposed rides the session's; undo takes them back");
    private final HBox roomFields;
    private final HBox holdFields;
    private final ValueField depth;
    private final ValueField range;
    private final ChoiceBox<MakeRoom.By> by = new ChoiceBox<>();
    private MakeRoom room = MakeRoom.USUAL;
    private HoldLevel hold = HoldLevel.USUAL;
    /** Asks for what is shown once more, with other settings. */
    private @Nullable Runnable again;

    ProposalBar(RidesModel model) {
        super(3);
        this.model = model;
        getStyleClass().add("proposal-bar");
        depth = new ValueField("By how much the others step back, 0.5 to 24", "dB", 1, 0.5, this::setDepth);
        depth.setValue(room.depthDb());
        depth.setPrefColumnCount(5);
        range = new ValueField(
                "How far a phrase may lie from the channel's own loudness, 0.5 to 12", "LU", 1, 0.5, this::setRange);
        range.setValue(hold.rangeLu());
        range.setPrefColumnCount(5);
        by.getStyleClass().add("small");
        by.getItems().setAll(MakeRoom.By.values());
        by.setConverter(new Words<>(MakeRoom.By::label));
        by.setValue(room.by());
        String which = "What steps back: all of a channel, or the other's own band of it";
        Hint.on(by, which);
        by.setAccessibleText(which);
        by.setOnAction(event -> {
            room = room.withBy(by.getValue());
            askAgain();
        });
        what.getStyleClass().add("stage-name");
        what.setMinWidth(0);
        Hint.wholeText(what);
        told.getStyleClass().add("figure");
        told.setMinWidth(0);
        Hint.wholeText(told);
        roomFields = line(word("by"), depth, word("of"), by);
        holdFields = line(word("within"), range, word("either way"));
        accept.getStyleClass().add("accent");
        accept.setOnAction(event -> model.acceptProposal());
        SmallButton discard = new SmallButton("Discard", "Drop what is proposed");
        discard.setOnAction(event -> {
            model.propose(null);
            show(null);
        });
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        getChildren().addAll(line(what, roomFields, holdFields, gap, accept, discard), told);
        show(null);
    }

    private static HBox line(Region... parts) {
        HBox line = new HBox(6, parts);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private static Label word(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("muted");
        label.setMinWidth(USE_PREF_SIZE);
        return label;
    }

    private void setDepth(double db) {
        room = room.withDepthDb(Math.clamp(db, MakeRoom.LEAST_DEPTH_DB, MakeRoom.MOST_DEPTH_DB));
        depth.setValue(room.depthDb());
        askAgain();
    }

    private void setRange(double lu) {
        hold = hold.withRangeLu(Math.clamp(lu, HoldLevel.LEAST_LU, HoldLevel.MOST_LU));
        range.setValue(hold.rangeLu());
        askAgain();
    }

    private void askAgain() {
        if (again != null) {
            again.run();
        }
    }

    /** Proposes that channels step back while another is active. */
    void makeRoom(Channel key, List<Channel> back) {
        List<ChannelId> ids = back.stream().map(Channel::id).toList();
        ask(
                "Room for " + key.name(),
                true,
                model.session().questions().room(key.id(), ids, room),
                key.name() + " is never active: nothing is proposed.");
        again = () -> makeRoom(key, back);
    }

    /** Proposes that a channel's phrases are kept near to its own loudness. */
    void holdLevel(Channel channel) {
        ask(
                "Level of " + channel.name() + " held",
                false,
                model.session().questions().heldLevel(channel.id(), hold),
                "No phrase of " + channel.name() + " lies further than " + LevelText.signed(hold.rangeLu(), 1, false)
                        + " LU from its own loudness.");
        again = () -> holdLevel(channel);
    }

    private void ask(String name, boolean ofRoom, CompletableFuture<Optional<RideProposal>> answer, String none) {
        Session asked = session();
        var unused = answer.thenAccept(found -> Platform.runLater(() -> {
            if (!session().equals(asked)) {
                return;
            }
            what.setText(name);
            shown(roomFields, ofRoom);
            shown(holdFields, !ofRoom);
            model.propose(found.orElse(null));
            if (found.isEmpty()) {
                // What was asked for can still be asked for otherwise.
                told.setText(none);
                shown(this, true);
            }
            accept.setDisable(found.isEmpty());
        }));
    }

    private Session session() {
        return model.session().session();
    }

    private static void shown(Region part, boolean visible) {
        part.setVisible(visible);
        part.setManaged(visible);
    }

    /** Shows what is proposed, or nothing. */
    void show(@Nullable Proposed proposed) {
        shown(this, proposed != null);
        if (proposed != null) {
            RideProposal proposal = proposed.proposal();
            told.setText(proposal.what() + ": "
                    + proposal.changes().stream().map(ProposalBar::inWords).collect(Collectors.joining(", ")));
        }
    }

    private static String inWords(RideProposal.Change change) {
        String before = LevelText.signed(change.before(), 1, true);
        String after = LevelText.signed(change.after(), 1, true);
        return change.section() + " " + (before.equals(after) ? before : before + " \u2192 " + after);
    }
}
