package waterwheel.desktop.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edits;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.findings.Finding;
import waterwheel.core.intake.IntakeEdits;
import waterwheel.core.levels.ChannelLevels;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.ChannelRow;
import waterwheel.desktop.controls.ColourMark;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.RestingField;
import waterwheel.desktop.controls.Waveform;
import waterwheel.desktop.controls.Words;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.model.SessionModel;

/**
 * One track's file: colour, name, kind, waveform, facts and faults. Keys: Enter edits the name, Alt+Shift+Up and Down move
 * the track, Up and Down change the row, with Shift they select along. Kind and colour are set for all selected tracks.
 */
final class IntakeRow extends ChannelRow {
    static final double NAME_WIDTH = 136;
    static final double KIND_WIDTH = 104;
    static final double FORMAT_WIDTH = 132;
    static final double FIGURE_WIDTH = 128;

    private final ColourMark colour;
    private final RestingField name = new RestingField();
    private final ChoiceBox<Track.Kind> kind = new ChoiceBox<>();
    private final Waveform waveform = new Waveform();
    private final Label format = new Label();
    private final Label length = new Label();
    private final Label peak = new Label();
    private final Label average = new Label();
    private boolean showing;

    IntakeRow(SessionModel model, Track track) {
        super(model, track.id());
        getStyleClass().add("intake-row");
        setAccessibleRole(AccessibleRole.LIST_ITEM);
        name.setMinWidth(NAME_WIDTH);
        name.setMaxWidth(NAME_WIDTH);
        name.setFocusTraversable(false);
        name.getStyleClass().add("name-field");
        name.setAccessibleText("Name");
        Hint.on(name, "Name of the track; Enter takes it, Escape puts it back");
        name.addEventFilter(KeyEvent.KEY_PRESSED, this::nameKey);
        name.focusedProperty().subscribe(focused -> {
            if (focused) {
                model.select(id);
            } else {
                takeName();
            }
        });
        kind.getItems().setAll(Track.Kind.values());
        kind.setConverter(new Words<>(Track.Kind::label));
        kind.getStyleClass().add("small");
        kind.setMinWidth(KIND_WIDTH);
        // Asked for it, a choice lays its menu out, for each row.
        kind.setPrefWidth(KIND_WIDTH);
        kind.setMaxWidth(KIND_WIDTH);
        kind.setAccessibleText("Kind: what its level is judged by");
        Hint.on(kind, "Sustained tracks are staged by average, percussive ones by peak; cues stay out of the mix");
        kind.setOnAction(event -> {
            Track now = track();
            if (!showing && kind.getValue() != now.kind()) {
                Track.Kind chosen = kind.getValue();
                model.edit(Edits.forEach("Kind", model.meantTracks(now), each -> Edits.kind(each, chosen)));
            }
        });
        HBox.setHgrow(waveform, Priority.ALWAYS);
        colour = new ColourMark(chosen -> model.edit(
                Edits.forEach("Colour", model.meantTracks(track()), each -> IntakeEdits.colour(each, chosen))));
        getChildren()
                .addAll(
                        colour,
                        name,
                        kind,
                        waveform,
                        pair(format, length, FORMAT_WIDTH),
                        pair(peak, average, FIGURE_WIDTH));
        setOnKeyPressed(this::key);
        addEventHandler(MouseEvent.MOUSE_PRESSED, this::press);
    }

    private static VBox pair(Label above, Label below, double width) {
        above.getStyleClass().add("figure");
        below.getStyleClass().addAll("figure", "muted");
        VBox box = new VBox(above, below);
        box.setMinWidth(width);
        box.setMaxWidth(width);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private Track track() {
        return (Track) model.session().channel(id);
    }

    private void nameKey(KeyEvent event) {
        if (event.getCode() == KeyCode.ENTER) {
            takeName();
            requestFocus();
        } else if (event.getCode() == KeyCode.ESCAPE) {
            name.setText(track().name());
            requestFocus();
        } else {
            return;
        }
        event.consume();
    }

    private void takeName() {
        if (model.session().find(id).isEmpty()) {
            return;
        }
        Track now = track();
        String typed = name.getText().strip();
        if (!typed.isEmpty() && !typed.equals(now.name())) {
            model.edit(Edits.rename(now, typed));
        }
        name.setText(track().name());
    }

    private void key(KeyEvent event) {
        boolean moving = event.isAltDown() && event.isShiftDown();
        boolean along = event.isShiftDown() && !event.isAltDown() && !event.isShortcutDown();
        boolean plain = !event.isAltDown() && !event.isShortcutDown() && !event.isShiftDown();
        if (moving && event.getCode() == KeyCode.UP) {
            model.edit(IntakeEdits.move(track(), -1));
        } else if (moving && event.getCode() == KeyCode.DOWN) {
            model.edit(IntakeEdits.move(track(), 1));
        } else if (along && event.getCode() == KeyCode.UP) {
            neighbour(-1, true);
        } else if (along && event.getCode() == KeyCode.DOWN) {
            neighbour(1, true);
        } else if (plain && event.getCode() == KeyCode.UP) {
            neighbour(-1, false);
        } else if (plain && event.getCode() == KeyCode.DOWN) {
            neighbour(1, false);
        } else if (plain && event.getCode() == KeyCode.ENTER) {
            name.requestFocus();
            name.selectAll();
        } else {
            return;
        }
        event.consume();
    }

    /** What is shown of a track: its frozen sound, or its first file; null where it has neither. */
    private @Nullable AudioSource source(Track track) {
        if (track.strip().freeze().isPresent()) {
            return model.session().source(track.strip().freeze().get().source());
        }
        return track.clips().isEmpty()
                ? null
                : model.session().source(track.clips().getFirst().source());
    }

    /** Shows the track and what is known of its file. */
    void update(List<Finding> findings) {
        Track track = track();
        showing = true;
        if (!name.isFocused()) {
            name.setText(track.name());
        }
        kind.setValue(track.kind());
        colour.show(track.colour());
        showing = false;
        AudioSource source = source(track);
        FileFacts facts = source == null ? null : model.levels().files().get(source.id());
        showFile(track, source, facts);
        ChannelLevels known = model.levels().of(id).orElse(null);
        Figures figures = known == null ? null : known.first();
        peak.setText(figures == null ? "measuring…" : "peak " + LevelText.level(figures.samplePeakDbfs(), "dBFS"));
        average.setText(figures == null ? "" : "average " + LevelText.level(figures.averageDbfs(), "dBFS"));
        String more = figures == null ? null : inWords(figures, facts);
        Hint.on(peak, more);
        Hint.on(average, more);
        List<Finding> own = findings.stream()
                .filter(f -> f.channel().equals(id) && Step.of(f) == Step.INTAKE)
                .toList();
        getStyleClass().removeIf(c -> c.startsWith("fault-"));
        if (!own.isEmpty()) {
            getStyleClass().add("fault-" + own.getFirst().severity().name().toLowerCase(Locale.ROOT));
            length.getStyleClass().setAll("label", "figure", "fault");
            length.setText(faultsInWords(own));
            Hint.on(
                    length,
                    String.join(
                            "\n",
                            own.stream()
                                    .map(f -> f.sentence() + " " + f.advice())
                                    .toList()));
        }
        setAccessibleText(track.name() + ", " + format.getText() + ", " + length.getText() + ", " + peak.getText());
    }

    private void showFile(Track track, @Nullable AudioSource source, @Nullable FileFacts facts) {
        waveform.show(facts == null ? null : facts.overview());
        Hint.on(length, null);
        length.getStyleClass().setAll("label", "figure", "muted");
        if (source == null) {
            format.setText("no file");
            length.setText("");
            return;
        }
        format.setText(
                source.encoding() + (source.channels() == 1 ? ", mono" : track.planes() == 1 ? ", left" : ", stereo"));
        Hint.on(format, source.path() + ", " + source.sampleRateHz() + " Hz");
        length.setText(LevelText.time((double) source.frames() / source.sampleRateHz())
                + (facts != null && facts.leadingSilenceFrames() > source.sampleRateHz() / 10 && !facts.silent()
                        ? ", begins " + LevelText.time((double) facts.leadingSilenceFrames() / source.sampleRateHz())
                        : ""));
    }

    private static String faultsInWords(List<Finding> own) {
        List<String> words = new ArrayList<>();
        for (Finding finding : own) {
            words.add(
                    switch (finding.rule()) {
                        case MISSING_FILE -> "file missing";
                        case NOT_NUMBERS -> "not all numbers";
                        case CHANGED_FILE -> "changed on disk";
                        case FLATTENED_SAMPLES -> "flattened";
                        case HARMLESS_OVERS -> "over 0, harmless";
                        case INVERTED_SIDES -> "sides inverted";
                        case SAME_AUDIO_TWICE -> "same audio twice";
                        case IDENTICAL_SIDES -> "sides the same";
                        case SILENT_SIDE -> "one side silent";
                        case DC_OFFSET -> "off the zero line";
                        case UNLIKE_LENGTHS -> "shorter";
                        case MAIN_OVER_FULL_SCALE,
                                BALANCE_LOSES_CONTENT,
                                LITTLE_HEADROOM,
                                RAISED_NOISE,
                                COARSE_FADER,
                                DOUBLE_PATH,
                                OUTPUT_CLIPS,
                                NO_RESPONSE,
                                SEND_CLIPS,
                                RETURN_CLIPS,
                                NOTHING_COMES_BACK,
                                PORT_TWICE,
                                RETURN_LISTENED_TO,
                                LISTENING_HOWLS,
                                FROZEN_OUT_OF_DATE,
                                CAPTURE_OUT_OF_DATE,
                                LOOP_NOT_TIMED,
                                LOOP_INVERTED,
                                UNIT_LEVEL,
                                LOOP_NOISE,
                                LOOP_FRACTION,
                                WET_DRY_SHIFT,
                                UNMATCHED_INSERT,
                                RIDE_CLICKS,
                                RIDE_AT_END,
                                RIDE_UNHEARD,
                                RIDE_STANDS,
                                PLAYER_GONE,
                                EMPTY_TRACK,
                                MUTED_TRACK -> "";
                    });
        }
        return String.join(", ", words);
    }

    /** Everything that is known of a track's file. */
    static String inWords(Figures figures, @Nullable FileFacts facts) {
        String truePeak = facts == null ? "" : "true peak " + LevelText.level(facts.truePeakDbtp(), "dBTP") + ", ";
        String words = truePeak + "RMS " + LevelText.level(figures.rmsDbfs(), "dBFS") + ", crest factor "
                + LevelText.signed(figures.crestDb(), 1, false) + " dB, loudness "
                + LevelText.level(figures.integratedLufs(), "LUFS") + ", noise floor "
                + LevelText.level(figures.noiseFloorDbfs(), "dBFS");
        if (!Double.isNaN(figures.correlation())) {
            words += ", correlation " + LevelText.signed(figures.correlation(), 2, true);
        }
        if (facts != null) {
            words += ", offset " + LevelText.signed(100 * facts.dcOffset(), 2, true) + " %";
        }
        return words;
    }
}
