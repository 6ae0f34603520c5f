package waterwheel.desktop.prints;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.edit.Edit;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.PrintRun;
import waterwheel.core.printing.Printed;
import waterwheel.core.printing.StandIn;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Parked;
import waterwheel.core.session.Session;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** Prints what is selected: how, how loud it will be, what of the mix would change; and lists what is parked. */
public final class PrintPanel extends BottomPanel {
    private static final double ROW_HEIGHT = 26;
    /** More of them are scrolled. */
    private static final int MOST_ROWS = 4;

    private final SessionModel model;
    private final Label who = new Label();
    private final Label levels = new Label();
    private final Label changes = new Label();
    private final SmallChoice<UptoChoice> upto =
            new SmallChoice<>(List.of(), UptoChoice::label, "Printed up to", "What of the channel is in the print");
    private final CheckBox sends = box("Sends", "The new track has the channel's sends");
    private final CheckBox groups = box("Groups", "The new track is in the channel's VCAs and link groups");
    private final CheckBox keep = box("Keep source", "The channel stays as it is, beside its print");
    private final TextField pattern = new TextField(PrintOrder.USUAL_PATTERN);
    private final SmallChoice<RenderFormat> format = new SmallChoice<>(
            List.of(RenderFormat.WAV_32F, RenderFormat.WAV_24),
            RenderFormat::label,
            "Format",
            "How the file is written");
    private final SmallButton print = new SmallButton("Print", "Render it to a new track, and park the channel");
    private final Label parkedTitle = new Label("Parked");
    private final VBox parked = new VBox(2);
    private final ScrollPane scroll = new ScrollPane(parked);
    private List<Channel> shown = List.of();

    public PrintPanel(SessionModel model, WorkLine work) {
        this.model = model;
        Label title = new Label("Print");
        title.getStyleClass().add("panel-title");
        title.setMinWidth(USE_PREF_SIZE);
        who.setMinWidth(0);
        Hint.wholeText(who);
        levels.getStyleClass().add("figure");
        changes.getStyleClass().add("muted");
        changes.setWrapText(true);
        changes.setMinHeight(Region.USE_PREF_SIZE);
        parkedTitle.getStyleClass().add("panel-title");
        sends.setSelected(true);
        groups.setSelected(true);
        format.setValue(RenderFormat.WAV_32F);
        Hint.on(pattern, "Name of the new track; {name} stands for the channel's");
        pattern.setAccessibleText("Name of the print");
        pattern.setPrefWidth(130);
        pattern.setMinWidth(90);
        pattern.getStyleClass().add("small-field");
        upto.setMinWidth(200);
        format.setMinWidth(USE_PREF_SIZE);
        upto.setOnAction(event -> tell());
        format.setOnAction(event -> tell());
        for (CheckBox one : List.of(sends, groups, keep)) {
            one.selectedProperty().subscribe(on -> tell());
        }
        pattern.textProperty().subscribe(text -> tell());
        print.setOnAction(event -> print(work));
        SmallButton close = new SmallButton("Close", "Put this away");
        close.setOnAction(event -> toggle());
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox first = new HBox(8, title, who, gap, format, close);
        first.setAlignment(Pos.CENTER_LEFT);
        HBox how = new HBox(8, upto, sends, groups, keep, new Label("Name"), pattern, print);
        how.getChildren().stream().filter(Label.class::isInstance).forEach(label -> ((Label) label)
                .setMinWidth(USE_PREF_SIZE));
        how.setAlignment(Pos.CENTER_LEFT);
        scroll.setFitToWidth(true);
        getChildren().addAll(first, how, levels, changes, parkedTitle, scroll);
    }

    private static CheckBox box(String name, String tip) {
        CheckBox box = new CheckBox(name);
        Hint.on(box, tip);
        box.setMinWidth(USE_PREF_SIZE);
        return box;
    }

    @Override
    protected Subscription opened() {
        upto.requestFocus();
        return Subscription.combine(
                model.selectedProperty().subscribe(id -> show()),
                model.selectionProperty().subscribe(ids -> show()),
                model.historyProperty().subscribe(history -> show()),
                model.levelsProperty().subscribe(known -> tell()));
    }

    private List<Channel> selected() {
        List<Channel> all = new ArrayList<>(model.selection());
        Channel one = model.selectedChannel();
        if (all.stream().noneMatch(channel -> channel.id().equals(one.id()))) {
            all = List.of(one);
        }
        return all.stream()
                .filter(channel -> !channel.id().equals(model.session().mainId()))
                .toList();
    }

    private void show() {
        List<Channel> channels = selected();
        if (!channels.equals(shown)) {
            shown = channels;
            UptoChoice before = upto.getValue();
            List<UptoChoice> choices = UptoChoice.of(channels);
            upto.getItems().setAll(choices);
            upto.setValue(before != null && choices.contains(before) ? before : choices.getFirst());
        }
        List<Parked> all = model.session().parked();
        parked.getChildren()
                .setAll(all.stream().map(one -> new ParkedRow(model, one)).toList());
        scroll.setMinHeight(ROW_HEIGHT * Math.min(all.size(), MOST_ROWS) + 4);
        for (Region part : List.of(parkedTitle, scroll)) {
            part.setVisible(!all.isEmpty());
            part.setManaged(!all.isEmpty());
        }
        tell();
    }

    private List<PrintOrder> orders() {
        UptoChoice choice =
                Objects.requireNonNullElse(upto.getValue(), UptoChoice.of(shown).getFirst());
        return shown.stream()
                .map(channel -> choice.order(channel)
                        .withSends(sends.isSelected())
                        .withGroups(groups.isSelected())
                        .withKeepSource(keep.isSelected())
                        .withName(PrintOrder.named(pattern.getText(), channel)))
                .toList();
    }

    /** What would come of it, before it is done. */
    private void tell() {
        print.setDisable(shown.isEmpty());
        if (shown.isEmpty()) {
            who.setText("the main bus is the mix: choose other channels");
            levels.setText("");
            changes.setText("");
            return;
        }
        who.setText(
                shown.size() == 1
                        ? "of " + shown.getFirst().name()
                        : "of " + shown.size() + " channels in one run: "
                                + shown.stream().map(Channel::name).collect(Collectors.joining(", ")));
        List<PrintOrder> orders = orders();
        levels.setText(levels(orders));
        List<String> all = new ArrayList<>();
        for (int i = 0; i < orders.size(); i++) {
            String name = shown.size() == 1 ? "" : shown.get(i).name() + ": ";
            StandIn.of(model.session(), orders.get(i)).changes().forEach(one -> all.add(name + one));
        }
        changes.setText(all.isEmpty() ? "The mix stays the same." : String.join(" ", all));
    }

    private String levels(List<PrintOrder> orders) {
        double loudest = Double.NEGATIVE_INFINITY;
        String whose = "";
        for (int i = 0; i < orders.size(); i++) {
            Channel channel = shown.get(i);
            Optional<ChannelLevels> known =
                    Optional.ofNullable(model.levels().channels().get(channel.id()));
            if (known.isEmpty()) {
                return "measuring\u2026";
            }
            double peak =
                    UptoChoice.figures(orders.get(i), channel, known.get()).samplePeakDbfs();
            if (peak > loudest || whose.isEmpty()) {
                loudest = peak;
                whose = shown.size() == 1 ? "" : " (" + channel.name() + ")";
            }
        }
        boolean clips = loudest >= 0 && format.getValue() == RenderFormat.WAV_24;
        return "Loudest sample " + LevelText.level(loudest, "dBFS") + whose + ", headroom "
                + LevelText.signed(-loudest, 1, true) + " dB" + (clips ? ": would clip at 24 bits" : "");
    }

    private void print(WorkLine work) {
        Session asked = model.session();
        List<PrintOrder> orders = orders();
        String name = orders.size() == 1 ? "Print " + shown.getFirst().name() : "Print " + orders.size() + " channels";
        RenderFormat chosen = format.getValue();
        work.start(
                "Printing",
                progress -> PrintRun.run(asked, model.folder(), orders, chosen.encoding(), progress),
                prints -> model.edit(new Edit(name, session -> Printed.into(session, prints))));
    }
}
