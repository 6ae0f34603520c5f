package waterwheel.desktop.frame;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Numbered;
import waterwheel.core.edit.SectionEdits;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.model.SessionModel;

/** Chooses what part of the song the figures are of, and makes, names, moves and removes sections at the cursor. */
final class SectionChoice extends StackPane {
    private static final double NEW_SECONDS = 8;

    private final SessionModel model;
    private final MenuButton menu = new MenuButton();
    private final TextField name = new TextField();
    private @Nullable Section naming;

    SectionChoice(SessionModel model) {
        this.model = model;
        menu.getStyleClass().add("small");
        menu.setMaxWidth(Double.MAX_VALUE);
        Hint.on(
                menu,
                "What the figures are of: the whole song or one section. Sections are made here at the"
                        + " cursor, or by dragging along the upper edge of the song");
        name.getStyleClass().add("small");
        name.setAccessibleText("Name of the section");
        Hint.on(name, "Name of the section; Enter takes it, Escape leaves it as it was");
        name.setVisible(false);
        name.setOnAction(event -> endNaming(true));
        name.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
                endNaming(false);
                event.consume();
            }
        });
        name.focusedProperty().subscribe(focused -> {
            if (!focused) {
                endNaming(true);
            }
        });
        getChildren().addAll(menu, name);
        model.keep(model.historyProperty().subscribe(history -> show()));
        model.keep(model.sectionProperty().subscribe(section -> show()));
    }

    private void show() {
        Section chosen = model.sectionProperty().get();
        menu.setText(chosen == null ? "Figures: whole song" : "Figures: " + chosen.name());
        menu.setAccessibleText(menu.getText());
        List<MenuItem> items = new ArrayList<>();
        items.add(choice("Whole song", null, chosen));
        model.session().sections().forEach(section -> items.add(choice(section.name(), section, chosen)));
        items.add(new SeparatorMenuItem());
        items.add(item("New section at the cursor", this::addAtCursor));
        if (chosen != null) {
            items.add(item("Begin " + chosen.name() + " at the cursor", () -> beginAtCursor(chosen)));
            items.add(item("End " + chosen.name() + " at the cursor", () -> endAtCursor(chosen)));
            items.add(item("Name " + chosen.name() + "…", () -> beginNaming(chosen)));
            items.add(item("Remove " + chosen.name(), () -> model.edit(SectionEdits.remove(chosen))));
        }
        menu.getItems().setAll(items);
    }

    private MenuItem choice(String label, @Nullable Section section, @Nullable Section chosen) {
        RadioMenuItem item = new RadioMenuItem(label);
        item.setMnemonicParsing(false);
        item.setSelected(section == null ? chosen == null : section.equals(chosen));
        item.setOnAction(event -> {
            model.chooseSection(section);
            show();
        });
        return item;
    }

    private static MenuItem item(String label, Runnable action) {
        MenuItem item = new MenuItem(label);
        item.setMnemonicParsing(false);
        item.setOnAction(event -> action.run());
        return item;
    }

    private long cursor() {
        return Math.round(
                model.transport().secondsProperty().get() * model.session().sampleRateHz());
    }

    private void addAtCursor() {
        Session session = model.session();
        long start = Math.clamp(cursor(), 0, Math.max(0, session.lengthFrames() - 1));
        long end = Math.min(session.lengthFrames(), start + (long) (NEW_SECONDS * session.sampleRateHz()));
        if (end > start) {
            add(start, end);
        }
    }

    /** Makes a section, shows its figures, and asks for its name. */
    void add(long startFrames, long endFrames) {
        Section made = new Section(freeName(model.session()), startFrames, endFrames);
        model.edit(SectionEdits.add(made));
        model.chooseSection(made);
        beginNaming(made);
    }

    private static String freeName(Session session) {
        List<String> taken = session.sections().stream().map(Section::name).toList();
        return Numbered.free("Section ", taken.size() + 1, taken);
    }

    private void beginAtCursor(Section section) {
        if (cursor() < section.endFrames()) {
            model.edit(SectionEdits.bounds(section, cursor(), section.endFrames()));
        } else {
            model.tell("The cursor stands behind the end of " + section.name() + ". Put it before the end first.");
        }
    }

    private void endAtCursor(Section section) {
        if (cursor() > section.startFrames()) {
            model.edit(SectionEdits.bounds(section, section.startFrames(), cursor()));
        } else {
            model.tell("The cursor stands before the beginning of " + section.name()
                    + ". Put it behind the beginning first.");
        }
    }

    private void beginNaming(Section section) {
        naming = section;
        name.setText(section.name());
        name.setVisible(true);
        menu.setVisible(false);
        name.requestFocus();
        name.selectAll();
    }

    private void endNaming(boolean take) {
        Section section = naming;
        naming = null;
        name.setVisible(false);
        menu.setVisible(true);
        String typed = name.getText().strip();
        if (section != null && take && !typed.isEmpty() && !typed.equals(section.name())) {
            model.edit(SectionEdits.rename(section, typed));
        }
    }
}
