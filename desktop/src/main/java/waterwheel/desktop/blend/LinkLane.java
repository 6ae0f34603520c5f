package waterwheel.desktop.blend;

import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import waterwheel.core.edit.GroupEdits;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.LinkGroup.Attribute;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.NameField;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.model.SessionModel;

/** One link group's lane: its members, and which of their controls move together. */
final class LinkLane extends HBox {
    private final SessionModel model;
    private final ChannelId id;
    private final TextField name;
    private final Label members = new Label();
    private final Map<Attribute, ToggleButton> toggles = new EnumMap<>(Attribute.class);

    LinkLane(SessionModel model, ChannelId id) {
        this.model = model;
        this.id = id;
        getStyleClass().addAll("lane", "vca-lane");
        setAlignment(Pos.CENTER_LEFT);
        setSpacing(4);
        name = new NameField("Name of the link group", BlendView.NAME_WIDTH, typed -> {
            boolean there = model.session().links().stream().anyMatch(l -> l.id().equals(id));
            if (there && !typed.equals(link().name())) {
                model.edit(GroupEdits.link(link(), l -> l.withName(typed)));
            }
        });
        Hint.wholeText(members);
        members.getStyleClass().add("muted");
        members.setMinWidth(0);
        members.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(members, Priority.ALWAYS);
        getChildren().addAll(name, members);
        for (Attribute attribute : Attribute.values()) {
            String word = attribute.label().substring(0, 1).toUpperCase(Locale.ROOT)
                    + attribute.label().substring(1);
            ToggleButton toggle = new ToggleButton(word);
            toggle.getStyleClass().addAll("small", "solo");
            toggle.setMinWidth(USE_PREF_SIZE);
            Hint.on(toggle, "Whether the members' " + attribute.label() + "s move together");
            toggle.setAccessibleText("Links " + attribute.label() + "s");
            toggle.setOnAction(event -> link(attribute, toggle.isSelected()));
            toggles.put(attribute, toggle);
            getChildren().add(toggle);
        }
        SmallButton remove = new SmallButton("Remove", "Take the link group away; its members stay where they are");
        remove.setOnAction(event -> model.edit(GroupEdits.removeLink(link())));
        getChildren().add(remove);
    }

    private LinkGroup link() {
        return model.session().links().stream()
                .filter(l -> l.id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    private void link(Attribute attribute, boolean on) {
        Set<Attribute> chosen = EnumSet.copyOf(link().attributes());
        if (on) {
            chosen.add(attribute);
        } else {
            chosen.remove(attribute);
        }
        if (chosen.isEmpty()) {
            model.tell("A link group links something. Remove it instead.");
            update();
        } else {
            model.edit(GroupEdits.link(link(), l -> l.withAttributes(chosen)));
        }
    }

    void update() {
        LinkGroup link = link();
        if (!name.isFocused()) {
            name.setText(link.name());
        }
        members.setText(link.members().stream()
                .flatMap(member -> model.session().find(member).stream())
                .map((Channel c) -> link.exempt().contains(c.id()) ? c.name() + " (left alone)" : c.name())
                .collect(Collectors.joining(", ")));
        toggles.forEach(
                (attribute, toggle) -> toggle.setSelected(link.attributes().contains(attribute)));
    }
}
