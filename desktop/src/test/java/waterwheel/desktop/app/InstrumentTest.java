package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import javafx.scene.control.Button;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.notes.Note;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Track;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.intake.IntakeView;

/** A file of notes becomes an instrument, whose notes and sound are changed, undone and played. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class InstrumentTest extends DrivenApplication {
    private Path notes() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        javax.sound.midi.Track track = sequence.createTrack();
        for (int i = 0; i < 32; i++) {
            int key = 60 + i * 7 % 12;
            track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, key, 60 + i), 240L * i + 11));
            track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 0, key, 0), 240L * i + 200));
        }
        Path file = shared.resolve("Harp part.mid");
        MidiSystem.write(sequence, 0, file.toFile());
        return file;
    }

    private Feed.Played played() {
        return ((Track) model().selectedChannel()).played().orElseThrow();
    }

    private List<Note> list() {
        return played().notes().notes();
    }

    private TextField field(String name) {
        return shown(TextField.class, f -> String.valueOf(f.getAccessibleText()).startsWith(name));
    }

    private void type(String name, String text) {
        TextField field = field(name);
        robot.interact(field::requestFocus);
        robot.interact(() -> field.setText(text));
        robot.push(KeyCode.ENTER);
    }

    @Test
    void notes_are_taken_in_shown_changed_and_heard() throws Exception {
        Path file = notes();
        robot.interact(() -> {
            desk().window().show(Step.INTAKE);
            ((IntakeView) Objects.requireNonNull(desk().window().view(Step.INTAKE))).add(List.of(file));
        });
        Channel channel = model().selectedChannel();
        assertThat(channel.name()).isEqualTo("Harp part");
        assertThat(list()).hasSize(32);
        awaitLevels();
        assertThat(model().levels().asked(channel.id()).orElseThrow().first().samplePeakDbfs())
                .isGreaterThan(-40);
        robot.interact(() -> button("Notes").fire());
        ListView<?> shown = shown(ListView.class, v -> "Notes".equals(v.getAccessibleText()));
        assertThat(shown.getItems()).hasSize(32);
        // One of them, then all.
        Note second = list().get(1);
        robot.interact(() -> shown.getSelectionModel().clearAndSelect(1));
        type("Move notes later", "10");
        assertThat(list().get(1)).isEqualTo(second.withStartFrames(second.startFrames() + 480));
        robot.interact(() -> shown.getSelectionModel().clearSelection());
        robot.interact(() -> button("+12").fire());
        assertThat(list()).allMatch(note -> note.key() >= 72);
        type("Scale velocities", "50");
        assertThat(list().getFirst().velocity()).isEqualTo(30);
        robot.interact(() -> button("Align to").fire());
        assertThat(list()).allMatch(note -> note.startFrames() % 6_000 == 0);
        type("Decay of the sound", "1.5");
        assertThat(((Instrument.Synth) played().instrument()).decaySeconds()).isEqualTo(1.5);
        choose("Sound", "Struck bar");
        assertThat(played().instrument()).isEqualTo(Instrument.Synth.STRUCK);
        robot.interact(() -> {
            model().transport().seek(0);
            model().transport().playOrStop();
        });
        until(() -> model().transport().secondsProperty().get() > 0.6);
        robot.interact(() -> model().transport().stop());
        // By hand: heard while the song stands, and recorded in time while it runs.
        ToggleButton keys = shown(ToggleButton.class, b -> "Keys".equals(b.getText()));
        robot.interact(keys::fire);
        until(() -> keys.isSelected());
        Button c = shown(Button.class, b -> "Key C4".equals(b.getAccessibleText()));
        ToggleButton record = shown(ToggleButton.class, b -> "Record keys".equals(b.getText()));
        robot.interact(() -> model().transport().seek(5));
        robot.interact(record::fire);
        until(() -> model().transport().secondsProperty().get() > 5.2);
        robot.interact(c::requestFocus);
        double before = model().transport().secondsProperty().get();
        robot.press(KeyCode.SPACE);
        double pressed = model().transport().secondsProperty().get();
        until(() -> model().transport().secondsProperty().get() > pressed + 0.4);
        robot.release(KeyCode.SPACE);
        robot.interact(() -> model().transport().stop());
        until(() -> list().size() == 33);
        assertThat(list())
                .filteredOn(note -> note.velocity() == 96)
                .singleElement()
                .satisfies(note -> {
                    assertThat(note.key()).isEqualTo(60);
                    assertThat(note.velocity()).isEqualTo(96);
                    // What is shown of the place is a picture old, and what is heard is earlier by what the port holds.
                    assertThat(note.startFrames() / 48_000.0).isBetween(before - 0.2, pressed + 0.2);
                    assertThat(note.lengthFrames()).isBetween(4_800L, 96_000L);
                });
        robot.interact(keys::fire);
        assertThat(model().keys().trackProperty().get()).isNull();
        robot.push(KeyCode.SHORTCUT, KeyCode.E);
        for (int i = 0; i < 8; i++) {
            robot.interact(() -> model().undo());
        }
        assertThat(model().session().find(channel.id())).isEmpty();
    }
}
