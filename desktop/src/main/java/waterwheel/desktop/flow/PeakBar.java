package waterwheel.desktop.flow;

import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import org.jspecify.annotations.Nullable;
import waterwheel.core.levels.PeakShares;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.units.Decibels;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** Who fills a bus's peak, in words, and the way from one of its peaks to the next; the map shows the parts. */
final class PeakBar extends HBox {
    private static final int MOST_NAMES = 6;

    private final SessionModel model;
    private final Consumer<@Nullable PeakShares> drawing;
    private @Nullable ChannelId bus;
    private int rank;

    /** @param drawing takes what is to be drawn on the map; null for nothing */
    PeakBar(SessionModel model, Consumer<@Nullable PeakShares> drawing) {
        super(6);
        this.model = model;
        this.drawing = drawing;
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().add("facts");
        // What was found is true of the session that was asked about.
        model.keep(model.historyProperty().subscribe(history -> close()));
    }

    /** Asks for the highest peak of the selected bus. */
    void ask() {
        if (model.selectedChannel() instanceof Bus selected) {
            ask(selected.id(), 0);
        } else {
            model.tell("Select a bus: its peak is made of its inputs.");
        }
    }

    private void ask(ChannelId asked, int which) {
        bus = asked;
        getChildren().setAll(new Label("Looking…"));
        // A change overtakes the question.
        var unused = model.questions()
                .peakShares(asked, which)
                .whenComplete((found, failure) -> Platform.runLater(() -> {
                    if (asked.equals(bus) && failure == null) {
                        show(asked, which, found);
                    } else if (asked.equals(bus)) {
                        close();
                    }
                }));
    }

    private void show(ChannelId asked, int which, Optional<PeakShares> found) {
        if (found.isPresent()) {
            rank = which;
            show(found.get());
        } else if (which == 0) {
            close();
            model.tell("Nothing reaches " + model.session().channel(asked).name() + ".");
        } else {
            model.tell("There is no further peak.");
            ask(asked, rank);
        }
    }

    private void show(PeakShares found) {
        Session session = model.session();
        String words = found.shares().stream()
                .limit(MOST_NAMES)
                .map(share -> session.channel(share.from()).name() + " "
                        + LevelText.signed(100 * share.value() / found.peak(), 0, true) + " %")
                .collect(Collectors.joining(",  "));
        Label label = new Label((rank == 0 ? "Highest peak of " : "Peak " + (rank + 1) + " of ")
                + session.channel(found.bus()).name() + ", "
                + LevelText.level(Decibels.ofFactor(Math.abs(found.peak())), "dBFS") + ":  " + words);
        label.setMinWidth(0);
        label.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(label, Priority.ALWAYS);
        Hint.wholeText(label);
        Button go = new SmallButton("at " + LevelText.time(found.atSeconds()), "Go to that place in the song");
        go.setOnAction(event -> model.transport().seek(Math.max(0, found.atSeconds() - 1)));
        Button higher = new SmallButton("Higher peak", "Who fills the next higher one");
        higher.setDisable(rank == 0);
        higher.setOnAction(event -> ask(found.bus(), rank - 1));
        Button lower = new SmallButton("Lower peak", "Who fills the next lower one, a second or more from the others");
        lower.setOnAction(event -> ask(found.bus(), rank + 1));
        Button close = new SmallButton("Close", "Put this away");
        close.setOnAction(event -> close());
        getChildren().setAll(label, go, higher, lower, close);
        drawing.accept(found);
    }

    private void close() {
        if (bus != null) {
            bus = null;
            getChildren().clear();
            drawing.accept(null);
        }
    }
}
