package waterwheel.desktop.flow;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.intake.BusProposal;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.WholeText;
import waterwheel.desktop.model.SessionModel;

/** Buses proposed from the tracks' names, to be named, left out, or made. */
final class BusProposalPanel extends VBox {
    private final SessionModel model;
    private final List<Line> lines = new ArrayList<>();

    /** A proposal with what was chosen of it. */
    private record Line(BusProposal proposal, CheckBox wanted, TextField name) {}

    BusProposalPanel(SessionModel model) {
        this.model = model;
        getStyleClass().add("facts");
        setSpacing(3);
        close();
        model.keep(model.historyProperty().subscribe(history -> close()));
    }

    void open() {
        List<BusProposal> proposals = BusProposal.of(model.session());
        if (proposals.isEmpty()) {
            model.tell("No bus to propose: of the tracks that feed the main bus directly, no two belong to one family"
                    + " by their names.");
            return;
        }
        lines.clear();
        getChildren().clear();
        Label title = new Label("Proposed buses");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        SmallButton make = new SmallButton("Make them", "Make the chosen buses and have their tracks feed them");
        make.setOnAction(event -> accept());
        SmallButton leave = new SmallButton("Leave it", "Put the proposals away");
        leave.setOnAction(event -> close());
        HBox heading = new HBox(6, title, gap, make, leave);
        heading.setAlignment(Pos.CENTER_LEFT);
        getChildren().add(heading);
        proposals.forEach(this::add);
        setVisible(true);
        setManaged(true);
        make.requestFocus();
    }

    private void add(BusProposal proposal) {
        CheckBox wanted = new CheckBox();
        wanted.setSelected(true);
        wanted.setAccessibleText("Make the bus " + proposal.name());
        wanted.setTooltip(new Tooltip("Whether this bus is made"));
        TextField name = new TextField(proposal.name());
        name.setPrefColumnCount(10);
        name.setAccessibleText("Name of the bus");
        name.setTooltip(new Tooltip("Name of the bus"));
        Session session = model.session();
        Label members = new Label(proposal.members().stream()
                .map((ChannelId id) -> session.channel(id).name())
                .collect(Collectors.joining(", ")));
        members.setMinWidth(0);
        WholeText.onHover(members);
        HBox line = new HBox(6, wanted, name, members);
        line.setAlignment(Pos.CENTER_LEFT);
        lines.add(new Line(proposal, wanted, name));
        getChildren().add(line);
    }

    private void accept() {
        List<BusProposal> chosen = lines.stream()
                .filter(line -> line.wanted().isSelected())
                .map(line -> new BusProposal(
                        line.name().getText().isBlank()
                                ? line.proposal().name()
                                : line.name().getText().strip(),
                        line.proposal().members()))
                .toList();
        if (!chosen.isEmpty()) {
            model.edit(BusProposal.accept(model.session(), chosen));
        }
        close();
    }

    private void close() {
        lines.clear();
        getChildren().clear();
        setVisible(false);
        setManaged(false);
    }
}
