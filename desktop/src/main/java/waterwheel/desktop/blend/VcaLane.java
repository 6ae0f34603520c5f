package waterwheel.desktop.blend;

import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.levels.VcaLevel;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.DbField;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.NameField;
import waterwheel.desktop.controls.RideMark;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** One VCA's lane: its fader over its loudest member's level. */
final class VcaLane extends HBox {
    private final SessionModel model;
    private final ChannelId id;
    private final NameField name;
    private final Fader fader;
    private final RideMark ride;
    private final RideMark muteRide;
    private final MemberMeter meter;
    private final DbField db;
    private final Label members = new Label();
    private final ToggleButton mute = new ToggleButton("M");

    VcaLane(SessionModel model, ChannelId id) {
        this.model = model;
        this.id = id;
        getStyleClass().addAll("lane", "vca-lane");
        setAlignment(Pos.CENTER_LEFT);
        name = new NameField("Name of the VCA", BlendView.NAME_WIDTH, this::takeName);
        RideMark[] marks = new RideMark[2];
        fader = new Fader("VCA fader", Fader.Travel.FADER, 0.1, 0, (value, gesture) -> marks[0].move(value, gesture));
        marks[0] = RideMark.on(fader, model, () -> ControlId.ofStrip(id, Strip.FADER.key()));
        ride = marks[0];
        meter = new MemberMeter(model.session().nominalDbfs());
        VBox level = new VBox(fader, meter);
        HBox.setHgrow(level, Priority.ALWAYS);
        db = new DbField("VCA fader", value -> ride.move(value, ""));
        db.setMinWidth(BlendView.DB_WIDTH);
        db.setMaxWidth(BlendView.DB_WIDTH);
        Hint.wholeText(members);
        members.getStyleClass().add("muted");
        members.setMinWidth(BlendView.SENDS_WIDTH);
        members.setMaxWidth(BlendView.SENDS_WIDTH);
        mute.getStyleClass().addAll("small", "mute");
        Hint.on(mute, "Silence all members");
        mute.setAccessibleText("Mute the VCA");
        mute.setOnAction(event -> marks[1].move(mute.isSelected() ? 1 : 0, ""));
        marks[1] = RideMark.on(mute, model, () -> ControlId.ofStrip(id, Strip.MUTED.key()));
        muteRide = marks[1];
        SmallButton fold = new SmallButton("Fold in", "Add its value to its members' faders and set it to 0 dB");
        fold.setOnAction(event -> fold());
        SmallButton remove = new SmallButton("Remove", "Take the VCA away; fold it in first to keep the mix");
        remove.setOnAction(event -> model.edit(GroupEdits.removeVca(vca())));
        HBox buttons = new HBox(4, fold, remove, mute);
        buttons.setAlignment(Pos.CENTER_RIGHT);
        getChildren().addAll(name, level, db, members, buttons);
    }

    /** Takes its name from what is typed next. */
    void nameIt() {
        name.requestFocus();
        name.selectAll();
    }

    private Vca vca() {
        return model.session().findVca(id).orElseThrow();
    }

    private void fold() {
        model.edit(GroupEdits.foldVca(vca()));
        double rest = vca().faderDb();
        if (rest != 0) {
            model.tell("A member's fader is at its upper end, so " + LevelText.signed(rest, 2, true)
                    + " dB stay in the VCA " + vca().name() + ".");
        }
    }

    private void takeName(String typed) {
        if (model.session().findVca(id).isPresent() && !typed.equals(vca().name())) {
            model.edit(GroupEdits.vca(vca(), v -> v.withName(typed)));
        }
    }

    void update() {
        Vca vca = vca();
        if (!name.isFocused()) {
            name.setText(vca.name());
        }
        double shown = ride.show(vca.faderDb());
        fader.show(shown);
        db.setValue(shown);
        mute.setSelected(muteRide.show(vca.muted() ? 1 : 0) >= 0.5);
        String words = vca.members().stream()
                .map(member -> name(member) + (vca.exempt().contains(member) ? " (left alone)" : ""))
                .collect(Collectors.joining(", "));
        members.setText(words.isEmpty() ? "no members" : words);
        VcaLevel.of(model.session(), vca, model.levels()::asked)
                .ifPresentOrElse(level -> meter.show(name(level.loudest()), level), meter::showPending);
    }

    private String name(ChannelId member) {
        return model.session()
                .find(member)
                .map(Channel::name)
                .or(() -> model.session().findVca(member).map(Vca::name))
                .orElse("");
    }
}
