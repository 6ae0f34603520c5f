package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Limiter;
import waterwheel.core.session.Session;
import waterwheel.core.store.SessionFolder;

/** Freezing from the command line. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FreezeCommandsTest extends RunCommands {
    private byte[] mix() throws Exception {
        Path file = folder.resolve("mix.wav");
        assertThat(run("mix", session(), "--out", file.toString(), "--format", "32f"))
                .isZero();
        return Files.readAllBytes(file);
    }

    @BeforeEach
    void a_session_of_a_tone_through_two_slots() throws Exception {
        newSessionOfATone();
        Session session = loaded();
        SessionFolder.save(
                session.withStrip(
                        session.tracks().getFirst().id(),
                        s -> s.withInserts(List.of(
                                Insert.of(new SlotId("a"), Limiter.KIND),
                                Insert.of(new SlotId("b"), Compressor.KIND)))),
                folder.resolve("song"));
    }

    @Test
    void a_channel_is_printed_parked_and_brought_back_and_the_mix_is_the_same() throws Exception {
        byte[] before = mix();
        Session live = loaded();
        assertThat(run("print", session(), "tone", "--json")).isZero();
        JsonNode document = json("print");
        JsonNode print = document.get("printed").get(0);
        assertThat(print.get("name").textValue()).isEqualTo("tone print");
        assertThat(folder.resolve("song").resolve(print.get("path").textValue()))
                .exists();
        assertThat(document.get("parked").get(0).get("name").textValue()).isEqualTo("tone");
        assertThat(mix()).isEqualTo(before);
        assertThat(run("print", session())).isZero();
        assertThat(out()).contains("Parked: tone");
        assertThat(run("print", session(), "tone", "--back")).isZero();
        assertThat(loaded().channels()).isEqualTo(live.channels());
        assertThat(mix()).isEqualTo(before);
        // The print is parked now, and can be let take its place again.
        assertThat(run("print", session(), "tone print", "--back")).isZero();
        assertThat(mix()).isEqualTo(before);
    }

    @Test
    void a_print_that_cannot_be_is_refused_in_a_sentence() throws Exception {
        assertThat(run("print", session(), "tone", "--with", "fader,mute")).isEqualTo(2);
        assertThat(err()).contains("must be in the print too: --with fader,placement,mute");
        assertThat(run("print", session(), "tone", "--with", "colour")).isEqualTo(2);
        assertThat(err()).contains("cannot be made with 'colour'");
        assertThat(run("print", session(), "tone", "--with", "fader", "--through", "a"))
                .isEqualTo(2);
        assertThat(run("print", session(), "tone", "--format", "mp3")).isEqualTo(2);
        assertThat(run("print", session(), "Main")).isNotZero();
        assertThat(err()).contains("is the mix");
        assertThat(run("print", session(), "other", "--back")).isEqualTo(2);
        assertThat(run("print", session(), "tone", "--keep-source", "--only-same"))
                .isEqualTo(1);
        assertThat(err()).contains("tone: It sounds beside its source: twice.").contains("Nothing was printed.");
        assertThat(loaded().parked()).isEmpty();
    }

    @Test
    void a_file_of_notes_becomes_an_instrument() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        Track track = sequence.createTrack();
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 2, 60, 100), 0));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 2, 60, 0), 480));
        Path notes = folder.resolve("Bells.mid");
        MidiSystem.write(sequence, 0, notes.toFile());
        byte[] before = mix();
        assertThat(run("instrument", session(), notes.toString(), "--sound", "struck", "--json"))
                .isZero();
        JsonNode document = json("instrument");
        assertThat(document.get("notes").intValue()).isEqualTo(1);
        assertThat(document.get("tracks").get(0).get("name").textValue()).isEqualTo("Bells");
        assertThat(mix()).isNotEqualTo(before);
        assertThat(run("instrument", session(), notes.toString(), "--channel", "1"))
                .isEqualTo(2);
        assertThat(err()).contains("There are some on: [3].");
        assertThat(run("instrument", session(), notes.toString(), "--sound", "bowed"))
                .isEqualTo(2);
        assertThat(run("instrument", session(), folder.resolve("none.mid").toString()))
                .isNotZero();
        assertThat(err()).contains("none.mid cannot be read.");
        Path map = folder.resolve("map.sfz");
        Files.writeString(map, "<region> sample=gone.wav");
        assertThat(run("instrument", session(), notes.toString(), "--samples", map.toString()))
                .isNotZero();
        assertThat(err()).contains("names no sample that can be played");
        assertThat(loaded().tracks()).hasSize(2);
    }

    @Test
    void the_load_tells_what_every_slot_takes_and_what_a_freeze_would_save() throws Exception {
        assertThat(run("load", session(), "--json")).isZero();
        JsonNode document = json("load");
        assertThat(document.get("timesRealTime").asDouble()).isPositive();
        JsonNode tone = document.get("channels").get(0);
        assertThat(tone.get("name").textValue()).isEqualTo("tone");
        assertThat(tone.get("freezingSaves").asDouble()).isPositive();
        assertThat(tone.get("slots"))
                .extracting(slot -> slot.get("processor").textValue())
                .containsExactly("Limiter", "Compressor");
        double parts = 0;
        for (JsonNode channel : document.get("channels")) {
            parts += channel.get("share").asDouble();
        }
        assertThat(parts).isBetween(0.3, 1.0);
        // Frozen it has nothing left to save, unless it is asked what it would cost.
        assertThat(run("freeze", session(), "tone")).isZero();
        assertThat(out()).containsPattern("That saves \\d+\\.\\d ms for a second of the song\\.");
        assertThat(run("load", session(), "--json")).isZero();
        assertThat(json("load").get("channels").get(0).has("freezingSaves")).isFalse();
        assertThat(run("load", session(), "--json", "--unfrozen")).isZero();
        assertThat(json("load").get("channels").get(0).has("freezingSaves")).isTrue();
        assertThat(run("load", session())).isZero();
        assertThat(out()).contains("ms/s").contains("Main");
    }

    @Test
    void a_channel_is_frozen_locked_and_computed_again_and_the_mix_is_the_same_bytes() throws Exception {
        byte[] before = mix();
        assertThat(run("freeze", session(), "tone", "--through", "limiter", "--json"))
                .isZero();
        JsonNode one = json("freeze").get("frozen").get(0);
        assertThat(one.get("through").textValue()).isEqualTo("a");
        assertThat(one.get("state").textValue()).isEqualTo("fresh");
        assertThat(one.get("saves").asDouble()).isGreaterThan(0).isLessThan(1);
        assertThat(folder.resolve("song").resolve(one.get("path").textValue())).exists();
        assertThat(mix()).isEqualTo(before);
        assertThat(run("stage", session(), "--apply")).isZero();
        assertThat(err()).contains("tone is in a frozen sound, and was left as it is.");
        assertThat(run("stage", session(), "--track", "tone", "--apply")).isEqualTo(1);
        assertThat(err() + out())
                .contains("tone is frozen through its Limiter")
                .contains("Unfreeze it first (waterwheel unfreeze)");
        assertThat(loaded().tracks().getFirst().strip().trimDb()).isZero();
        assertThat(run("unfreeze", session(), "--all", "--json")).isZero();
        assertThat(json("unfreeze").get("unfrozen").intValue()).isEqualTo(1);
        // Saved without it, the frozen sound is swept.
        assertThat(folder.resolve("song").resolve(one.get("path").textValue())).doesNotExist();
        assertThat(mix()).isEqualTo(before);
        assertThat(run("freeze", session())).isZero();
        assertThat(out() + err()).contains("No channel is frozen.");
    }

    @Test
    void all_channels_with_inserts_are_frozen_at_once_and_wrong_names_are_told() throws Exception {
        assertThat(run("freeze", session(), "--all", "--json")).isZero();
        assertThat(json("freeze").get("frozen")).hasSize(1);
        assertThat(run("freeze", session(), "nobody")).isEqualTo(2);
        assertThat(run("freeze", session(), "tone", "--through", "reverb")).isEqualTo(2);
        assertThat(err()).contains("tone has no slot 'reverb'.");
    }

    /** Whenever it is killed: the session old or new as a whole, and a mix that is the same either way. */
    @ParameterizedTest
    @ValueSource(strings = {"freeze", "print"})
    void a_kill_while_freezing_or_printing_leaves_the_session_old_or_new(String command) throws Exception {
        byte[] wanted = mix();
        Session before = loaded();
        SplittableRandom random = new SplittableRandom(3);
        for (int round = 0; round < 5; round++) {
            Process working = start(command, session(), "tone");
            working.waitFor(200 + random.nextInt(700), TimeUnit.MILLISECONDS);
            working.destroyForcibly().waitFor();
            Session found = loaded();
            assertThat(found.equals(before)
                            || found.tracks().getFirst().strip().freeze().isPresent()
                            || found.parked().size() == 1)
                    .isTrue();
            assertThat(mix()).isEqualTo(wanted);
            SessionFolder.save(before, folder.resolve("song"));
        }
    }
}
