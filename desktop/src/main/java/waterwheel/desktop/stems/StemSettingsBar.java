package waterwheel.desktop.stems;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.session.Section;
import waterwheel.core.session.StemDivision;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.stems.StemTap;
import waterwheel.core.stems.Treatment;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.Labelled;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.ValueField;
import waterwheel.desktop.model.SessionModel;

/** The choices of what stems are made of, what they sound like, and at which level in which format they are written. */
final class StemSettingsBar extends VBox {
    private final SessionModel session;
    private final StemsModel model;

    StemSettingsBar(SessionModel session, StemsModel model) {
        super(4);
        this.session = session;
        this.model = model;
        getChildren()
                .addAll(
                        line(
                                new Labelled("A stem of", division()),
                                returns(),
                                new Labelled("taken", tap()),
                                new Labelled("Buses treat it", treatment())),
                        line(
                                new Labelled("Of", stretch()),
                                new Labelled("Tail", tail()),
                                mono(),
                                new Labelled("Format", format())),
                        line(new PolicyChoice(model.policyProperty())));
    }

    private static HBox line(Node... parts) {
        HBox line = new HBox(12, parts);
        line.setAlignment(Pos.CENTER_LEFT);
        line.getStyleClass().add("settings");
        return line;
    }

    private ChoiceBox<StemDivision.By> division() {
        ChoiceBox<StemDivision.By> choice = new SmallChoice<>(
                List.of(StemDivision.By.values()),
                by -> switch (by) {
                    case TRACKS -> "each track";
                    case BUSES -> "each bus";
                    case NAMED -> "what I put together";
                },
                "What a stem is made of",
                "A stem of each track; of each bus that feeds the main bus with all that comes together in it; or of"
                        + " what you put together below, and of what is left each by itself. Kept with the session");
        session.keep(session.historyProperty()
                .subscribe(history -> choice.setValue(session.session().stems().by())));
        choice.valueProperty().subscribe(by -> {
            if (by != null && by != session.session().stems().by()) {
                session.edit(StemEdits.by(by));
            }
        });
        return choice;
    }

    private CheckBox returns() {
        CheckBox apart = check(
                "Returns apart",
                "Each return is a stem of its own, with all that is sent to it; else every stem has its share of"
                        + " every return. Kept with the session");
        session.keep(session.historyProperty()
                .subscribe(
                        history -> apart.setSelected(session.session().stems().returnsApart())));
        apart.setOnAction(event -> session.edit(StemEdits.returnsApart(apart.isSelected())));
        return apart;
    }

    private CheckBox mono() {
        CheckBox mono = check(
                "One side where both are the same",
                "A stem whose two sides are the same, sample for sample, is written as a file of one side");
        model.settingsProperty().subscribe(settings -> mono.setSelected(settings.mono()));
        mono.setOnAction(event ->
                model.settingsProperty().set(model.settingsProperty().get().withMono(mono.isSelected())));
        return mono;
    }

    private static CheckBox check(String name, String tip) {
        CheckBox box = new CheckBox(name);
        box.setMinWidth(Region.USE_PREF_SIZE);
        Hint.on(box, tip);
        return box;
    }

    private ChoiceBox<Treatment> treatment() {
        return settled(
                new SmallChoice<>(
                        List.of(Treatment.values()),
                        t -> t == Treatment.AS_MIX ? "as the mix" : "by itself",
                        "What compressors and the like on buses do with a stem",
                        "As the mix: they turn each stem by the gain that the whole asks for, so that the stems add up"
                                + " to the mix. By itself: they answer to each stem as if nothing else were there"),
                StemSettings::treatment,
                StemSettings::withTreatment);
    }

    private ChoiceBox<StemTap> tap() {
        return settled(
                new SmallChoice<>(
                        List.of(StemTap.values()),
                        t -> t == StemTap.AFTER_MAIN ? "after main" : "before main",
                        "Where stems and mix are taken",
                        "After main: behind the main bus's processing, fader and placement. Before main: where they"
                                + " come together at its input, for somebody who does its processing anew"),
                StemSettings::tap,
                StemSettings::withTap);
    }

    private ChoiceBox<Optional<Section>> stretch() {
        SmallChoice<Optional<Section>> choice = new SmallChoice<>(
                List.of(Optional.empty()),
                section -> section.map(Section::name).orElse("the whole song"),
                "What of the song is rendered",
                "The whole song, or one of its sections, cut from the song as it plays");
        session.keep(session.historyProperty().subscribe(history -> {
            List<Optional<Section>> all = new ArrayList<>();
            all.add(Optional.empty());
            session.session().sections().forEach(section -> all.add(Optional.of(section)));
            if (!choice.getItems().equals(all)) {
                Optional<Section> now = model.settingsProperty().get().only();
                choice.getItems().setAll(all);
                choice.setValue(all.contains(now) ? now : Optional.empty());
            }
        }));
        return settled(choice, StemSettings::only, StemSettings::withOnly);
    }

    /** A choice that shows one of the settings and changes it. */
    private <T> ChoiceBox<T> settled(
            ChoiceBox<T> choice, Function<StemSettings, T> value, BiFunction<StemSettings, T, StemSettings> change) {
        model.settingsProperty().subscribe(settings -> choice.setValue(value.apply(settings)));
        choice.valueProperty().subscribe(chosen -> {
            // Between two lists of items nothing is chosen.
            if (chosen != null) {
                model.settingsProperty()
                        .set(change.apply(model.settingsProperty().get(), chosen));
            }
        });
        return choice;
    }

    private ValueField tail() {
        ValueField[] field = new ValueField[1];
        field[0] = new ValueField("Tail after the end", "s", 1, 0.5, seconds -> {
            double value = Math.clamp(seconds, 0, StemSettings.MOST_TAIL_SECONDS);
            model.settingsProperty().set(model.settingsProperty().get().withTailSeconds(value));
            field[0].setValue(value);
        });
        field[0].setMinWidth(64);
        field[0].setPrefColumnCount(4);
        field[0].setValue(model.settingsProperty().get().tailSeconds());
        return field[0];
    }

    private ChoiceBox<RenderFormat> format() {
        ChoiceBox<RenderFormat> format = new SmallChoice<>(
                List.of(RenderFormat.values()),
                RenderFormat::label,
                "Format of the files",
                "Format of the files; fixed-point formats get TPDF dither");
        format.setValue(model.formatProperty().get());
        format.valueProperty().subscribe(value -> model.formatProperty().set(value));
        return format;
    }
}
