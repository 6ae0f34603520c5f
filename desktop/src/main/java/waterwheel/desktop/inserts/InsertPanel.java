package waterwheel.desktop.inserts;

import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.util.Subscription;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.intake.FileImport;
import waterwheel.core.intake.IntakeEdits;
import waterwheel.core.processing.Processors;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.AudioChooser;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.ProcessorCurve;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.frame.BottomPanel;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.SessionModel;

/** One insert's settings: every parameter with its unit, what it does to the level as a curve, gains, mix, and match. */
public final class InsertPanel extends BottomPanel {
    private static final double LABEL_WIDTH = 86;
    private static final double PAIR_WIDTH = 172;

    private final SessionModel model;
    private final WorkLine work;
    private final ReductionBar reduction = new ReductionBar();
    private final Label reductionDb = new Label();
    private final HBox turned = new HBox(5, new Label("Turned down"), reduction, reductionDb);
    private final Label title = new Label();
    private final Label levels = new Label();
    private final FlowPane fields = new FlowPane(8, 4);
    private final ProcessorCurve curve = new ProcessorCurve();
    private final List<Runnable> updates = new ArrayList<>();
    private @Nullable ChannelId channelId;
    private @Nullable SlotId slot;
    private boolean showing;

    public InsertPanel(SessionModel model, WorkLine work) {
        this.model = model;
        this.work = work;
        getStyleClass().add("insert-panel");
        title.getStyleClass().add("panel-title");
        levels.getStyleClass().addAll("figure", "muted");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        Button match = new SmallButton("Match", "Set the output gain so that it is as loud active as bypassed");
        match.setOnAction(event -> match());
        Button usual = new SmallButton("Reset", "Give every parameter its usual value");
        usual.setOnAction(
                event -> edit(i -> i.withProcessor(Processor.usual(i.processor().kind()))));
        Button close = new SmallButton("Close", "Put the settings away (Escape)");
        close.setOnAction(event -> leave());
        reductionDb.getStyleClass().add("figure");
        reductionDb.setMinWidth(58);
        turned.setAlignment(Pos.CENTER_LEFT);
        title.setMinWidth(Region.USE_PREF_SIZE);
        HBox heading = new HBox(8, title, gap, match, usual, close);
        heading.setAlignment(Pos.CENTER_LEFT);
        // The height is reckoned for three pairs in a row.
        fields.setPrefWrapLength(3 * PAIR_WIDTH + 2 * fields.getHgap());
        HBox.setHgrow(fields, Priority.ALWAYS);
        HBox measured = new HBox(16, levels, turned);
        measured.setAlignment(Pos.CENTER_LEFT);
        HBox body = new HBox(12, curve, fields);
        getChildren().addAll(heading, measured, body);
        model.transport().listen((peaks, seconds) -> showReduction(seconds));
    }

    /** Shows an insert of the selected channel. */
    public void open(SlotId wanted) {
        channelId = model.selectedChannel().id();
        slot = wanted;
        build();
        open();
    }

    @Override
    protected Subscription opened() {
        return Subscription.combine(
                model.historyProperty().subscribe(history -> update()),
                model.levelsProperty().subscribe(known -> showLevels()),
                model.selectedProperty().subscribe(id -> {
                    if (!id.equals(channelId)) {
                        leave();
                    }
                }));
    }

    @Override
    protected void putAway() {
        channelId = null;
        slot = null;
        build();
    }

    private @Nullable Insert insert() {
        if (channelId == null || slot == null) {
            return null;
        }
        return model.session().find(channelId).stream()
                .flatMap(c -> c.strip().inserts().stream())
                .filter(i -> i.id().equals(slot))
                .findFirst()
                .orElse(null);
    }

    private void edit(UnaryOperator<Insert> change) {
        SlotId present = slot;
        if (channelId != null && present != null) {
            Channel channel = model.session().channel(channelId);
            model.edit(FlowEdits.insert(channel, present, change));
        }
    }

    private void build() {
        fields.getChildren().clear();
        updates.clear();
        Insert insert = insert();
        if (insert == null) {
            return;
        }
        turned.setVisible(Processors.of(insert.processor().kind()).turnsDown());
        turned.setManaged(turned.isVisible());
        if (insert.processor().kind().responds()) {
            add("Response", response());
        }
        for (Parameter parameter : insert.processor().kind().parameters()) {
            add(parameter.name(), parameter.choices().isEmpty() ? field(parameter) : choice(parameter));
        }
        RideMark[] marks = new RideMark[3];
        DbField input = new DbField("Gain before the processor", db -> marks[0].move(db, ""));
        DbField output = new DbField("Gain after the processor", db -> marks[1].move(db, ""));
        ValueField mix = new ValueField("Mix: how much is processed", "%", 0, 5, v -> marks[2].move(v / 100, ""));
        marks[0] = RideMark.on(input, model, () -> controlId(Insert.INPUT.key()));
        marks[1] = RideMark.on(output, model, () -> controlId(Insert.OUTPUT.key()));
        marks[2] = RideMark.on(mix, model, () -> controlId(Insert.MIX.key()));
        updates.add(() -> {
            Insert now = insert();
            if (now != null) {
                input.setValue(marks[0].show(now.inputDb()));
                output.setValue(marks[1].show(now.outputDb()));
                mix.setValue(100 * marks[2].show(now.mix()));
            }
        });
        add("Input gain", input);
        add("Output gain", output);
        add("Mix", mix);
    }

    private void showReduction(double seconds) {
        SlotId present = slot;
        Insert moving = model.transport().playingProperty().get() ? insert() : null;
        if (moving != null && moving.rides().anyActive()) {
            // What is ridden reads along with the song.
            showValues();
        }
        if (channelId != null && present != null && turned.isVisible()) {
            double db = reduction.show(model.transport().reductionDb(channelId, present), seconds);
            reductionDb.setText(LevelText.signed(-db, 1, true) + " dB");
        }
    }

    /** The file that a convolution works with, and the choice of another. */
    private HBox response() {
        Label file = new Label();
        file.getStyleClass().add("code");
        updates.add(() -> {
            Insert now = insert();
            if (now != null) {
                file.setText(now.processor()
                        .response()
                        .map(id -> model.session().source(id).fileName())
                        .orElse("none: silence comes out"));
            }
        });
        SmallButton choose = new SmallButton(
                "Choose file…",
                "Choose a recording of a room's answer to an impulse, mono or stereo, WAV, AIFF or FLAC");
        choose.setOnAction(event -> {
            File chosen = AudioChooser.titled("Impulse response")
                    .showOpenDialog(getScene().getWindow());
            if (chosen != null) {
                takeResponse(chosen.toPath());
            }
        });
        HBox line = new HBox(6, file, choose);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** Takes a file into the session as the shown insert's impulse response. */
    public void takeResponse(Path file) {
        ChannelId channel = channelId;
        SlotId present = slot;
        if (channel == null || present == null) {
            return;
        }
        FileImport intake = new FileImport(model.folder(), model.session().sampleRateHz(), true, true);
        work.start("Taking " + file.getFileName() + " in", progress -> intake.take(file, progress), taken -> {
            if (taken.size() == 1) {
                model.edit(IntakeEdits.response(model.session().channel(channel), present, taken.getFirst()));
            } else {
                model.tell(file.getFileName() + " has more than two channels. Choose a mono or stereo response.");
            }
        });
    }

    private void add(String name, Region control) {
        Label label = new Label(name);
        label.getStyleClass().add("muted");
        label.setMinWidth(LABEL_WIDTH);
        Hint.wholeText(label);
        HBox pair = new HBox(4, label, control);
        pair.setAlignment(Pos.CENTER_LEFT);
        // Of one width, so that three stand beside each other in columns.
        pair.setMinWidth(PAIR_WIDTH);
        fields.getChildren().add(pair);
    }

    private ValueField field(Parameter parameter) {
        double span = parameter.most() - parameter.least();
        int decimals = span >= 1_000 ? 0 : span >= 50 ? 1 : 2;
        double step = span >= 1_000 ? 10 : span >= 200 ? 1 : span >= 20 ? 0.1 : 0.05;
        RideMark[] mark = new RideMark[1];
        ValueField field = new ValueField(
                parameter.name() + ", " + plain(parameter.least()) + " to " + plain(parameter.most()),
                parameter.unit(),
                decimals,
                step,
                value -> mark[0].move(value, ""));
        mark[0] = RideMark.on(field, model, () -> controlId(parameter.key()));
        updates.add(() -> {
            Insert now = insert();
            if (now != null) {
                field.setValue(mark[0].show(now.processor().value(parameter.key())));
            }
        });
        return field;
    }

    private @Nullable ControlId controlId(String key) {
        SlotId present = slot;
        return channelId == null || present == null ? null : ControlId.ofInsert(channelId, present, key);
    }

    private static String plain(double value) {
        return LevelText.signed(value, value == Math.rint(value) ? 0 : 2, false);
    }

    private ChoiceBox<String> choice(Parameter parameter) {
        ChoiceBox<String> box =
                new SmallChoice<>(parameter.choices(), word -> word, parameter.name(), parameter.name());
        box.setOnAction(event -> {
            int chosen = box.getSelectionModel().getSelectedIndex();
            if (!showing && chosen >= 0) {
                edit(i -> i.withProcessor(i.processor().with(parameter.key(), chosen)));
            }
        });
        updates.add(() -> {
            Insert now = insert();
            if (now != null) {
                box.getSelectionModel().select(now.processor().choice(parameter.key()));
            }
        });
        return box;
    }

    private void update() {
        Insert insert = insert();
        if (insert == null) {
            leave();
            return;
        }
        Channel channel =
                channelId == null ? null : model.session().find(channelId).orElse(null);
        title.setText(insert.processor().kind().label() + " on " + (channel == null ? "" : channel.name())
                + (insert.bypassed() ? " (bypassed)" : ""));
        showValues();
        showLevels();
    }

    private void showValues() {
        showing = true;
        updates.forEach(Runnable::run);
        showing = false;
    }

    private void showLevels() {
        Insert insert = insert();
        if (insert == null || channelId == null) {
            return;
        }
        FileFacts response = insert.processor()
                .response()
                .map(id -> model.levels().files().get(id))
                .orElse(null);
        curve.show(insert.processor(), model.session().sampleRateHz(), response);
        levels.setText(model.levels()
                .of(channelId)
                .flatMap(known -> known.around(insert.id()))
                .map(around -> Compared.of(insert).text(around))
                .orElse(insert.bypassed() ? "" : "measuring…"));
    }

    /** As loud behind the insert as before it: within the rounding of a hundredth of a dB. */
    private void match() {
        Insert insert = insert();
        if (insert == null || channelId == null) {
            return;
        }
        var around = model.levels().of(channelId).flatMap(known -> known.around(insert.id()));
        double change = around.map(Compared.of(insert)::changeDb).orElse(Double.NaN);
        if (Double.isFinite(change)) {
            double output = Math.round((insert.outputDb() + change) * 100) / 100.0;
            edit(i -> i.withOutputDb(Insert.OUTPUT.limited(output)));
        } else {
            model.tell("There is no level on both sides of this insert to match.");
        }
    }
}
