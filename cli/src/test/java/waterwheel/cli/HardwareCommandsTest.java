package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Rack;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;

/** The round from the command line: ports, time, capture, render, and render again without the interface. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class HardwareCommandsTest extends RunCommands {
    private String said() {
        return out() + err();
    }

    @BeforeEach
    void a_session_with_one_loop_through_a_cable() throws Exception {
        newSessionOfATone();
        ChannelId tone = loaded().tracks().getFirst().id();
        Session session = loaded().withRack(
                        new Rack(Driver.SIMULATED, 1, List.of(), List.of(), List.of(new Cable(Optional.empty(), 3, 4))))
                .withStrip(
                        tone,
                        s -> s.withInserts(List.of(Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                                .withLoop(new Loop(Optional.empty(), 3, 4, Optional.empty(), Optional.empty())))));
        SessionFolder.save(session, folder.resolve("song"));
    }

    @Test
    void ports_tell_who_uses_them() throws Exception {
        assertThat(run("ports", session(), "--json")).isZero();
        JsonNode document = json("ports");
        assertThat(document.get("interface").textValue()).isEqualTo("Simulated interface");
        assertThat(document.get("ports")).hasSize(16);
        for (JsonNode port : document.get("ports")) {
            boolean input = port.get("side").textValue().equals("input");
            int number = port.get("number").intValue();
            int users = (input && number == 4) || (!input && number <= 3) ? 1 : 0;
            assertThat(port.get("usedBy")).as("%s", port).hasSize(users);
        }
        assertThat(run("ports", session())).isZero();
        assertThat(said()).contains("Output 1", "monitor", "free");
    }

    @Test
    void levels_tell_what_is_sent_and_what_came_back() throws Exception {
        assertThat(run("time", session(), "--apply")).isZero();
        assertThat(run("capture", session())).isZero();
        assertThat(run("levels", session(), "--json")).isZero();
        JsonNode stages = json("levels").get("channels").get(0).get("stages");
        List<String> names = new ArrayList<>();
        for (JsonNode stage : stages) {
            names.add(stage.get("stage").textValue());
            // A sine of 0.1 through a cable.
            if (List.of("trim", "sent", "returned", "insert").contains(names.getLast())) {
                assertThat(stage.get("averageDbfs").doubleValue())
                        .as(names.getLast())
                        .isCloseTo(-20, within(0.05));
            }
        }
        assertThat(names)
                .containsExactly(
                        "source", "clips", "trim", "sent", "returned", "insert", "fader", "placement", "output");
    }

    @Test
    void time_changes_nothing_until_it_is_told_to() throws Exception {
        Session before = loaded();
        assertThat(run("time", session(), "--json")).isZero();
        JsonNode loop = json("time").get("loops").get(0);
        assertThat(loop.get("answered").booleanValue()).isTrue();
        assertThat(loop.get("latencySamples").doubleValue()).isCloseTo(320, within(0.05));
        assertThat(loaded()).isEqualTo(before);
        assertThat(run("time", session(), "tone", "--apply")).isZero();
        assertThat(loaded().tracks()
                        .getFirst()
                        .strip()
                        .inserts()
                        .getFirst()
                        .processor()
                        .loop()
                        .timing())
                .isPresent();
    }

    @Test
    void a_way_that_is_dead_ends_with_1_and_says_what_to_look_at() throws Exception {
        Session session = loaded();
        SessionFolder.save(session.withRack(session.rack().withCables(List.of())), folder.resolve("song"));
        assertThat(run("time", session())).isEqualTo(1);
        assertThat(said()).contains("Nothing comes back from Input 4: is the unit on, is the cable in Output 3?");
    }

    @Test
    void an_unknown_slot_is_misuse_that_lists_those_there_are() {
        assertThat(run("time", session(), "piano")).isEqualTo(2);
        assertThat(said()).contains("no hardware slot 'piano'", "/hw");
    }

    @Test
    void nothing_is_rendered_before_the_capture_and_the_same_with_the_interface_away_after_it() throws Exception {
        String mix = folder.resolve("mix.wav").toString();
        assertThat(run("mix", session(), "--out", mix)).isEqualTo(1);
        assertThat(said()).contains("not captured", "Capture it first");
        assertThat(Path.of(mix)).doesNotExist();

        assertThat(run("time", session(), "--apply")).isZero();
        assertThat(run("capture", session(), "--json")).isZero();
        JsonNode document = json("capture");
        assertThat(document.get("captured").get(0).get("path").textValue()).startsWith("captures/");
        assertThat(document.get("open")).isEmpty();
        assertThat(run("capture", session())).isZero();
        assertThat(said()).contains("Nothing to capture");

        assertThat(run("mix", session(), "--out", mix)).isZero();
        byte[] first = Files.readAllBytes(Path.of(mix));
        Session session = loaded();
        SessionFolder.save(
                session.withRack(session.rack().withDriver(Driver.SYSTEM).withCables(List.of())),
                folder.resolve("song"));
        assertThat(run("mix", session(), "--out", mix)).isZero();
        assertThat(Files.readAllBytes(Path.of(mix))).isEqualTo(first);
        assertThat(run("stems", session(), "--out", folder.resolve("stems").toString(), "--json"))
                .isZero();
        assertThat(json("stems").get("proof").get("holds").booleanValue()).isTrue();
    }

    @Test
    void incomplete_is_rendered_only_when_it_is_asked_for_and_says_so() throws Exception {
        String stems = folder.resolve("stems").toString();
        assertThat(run("stems", session(), "--out", stems)).isEqualTo(1);
        assertThat(Path.of(stems)).doesNotExist();
        Session session = loaded();
        SessionFolder.save(
                session.withStrip(
                        session.tracks().getFirst().id(),
                        s -> s.withInserts(List.of(s.inserts().getFirst().withMix(0.5)))),
                folder.resolve("song"));
        assertThat(run("stems", session(), "--out", stems, "--incomplete", "--json"))
                .isZero();
        assertThat(json("stems").get("incomplete").booleanValue()).isTrue();
    }

    @Test
    void stems_through_a_loop_on_a_bus_are_captured_a_pass_each() throws Exception {
        Session session = loaded();
        Track tone = session.tracks().getFirst().withStrip(Strip.unity(Output.to(session.mainId())));
        Track quieter = new Track(
                new ChannelId("quieter"),
                "quieter",
                tone.kind(),
                1,
                List.of(tone.clips().getFirst().withGainDb(-6)),
                tone.strip());
        Insert slot = Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                .withLoop(new Loop(Optional.empty(), 5, 5, Optional.empty(), Optional.empty()));
        SessionFolder.save(
                session.withChannels(List.of(tone, quieter, session.main()))
                        .withStrip(session.mainId(), s -> s.withInserts(List.of(slot)))
                        .withRack(session.rack()
                                .withCables(
                                        List.of(new Cable(Optional.empty(), 5, 5), new Cable(Optional.empty(), 6, 6)))),
                folder.resolve("song"));
        String stems = folder.resolve("stems").toString();
        assertThat(run("time", session(), "--apply")).isZero();
        assertThat(run("capture", session())).isZero();
        assertThat(run("stems", session(), "--out", stems)).isEqualTo(1);
        assertThat(said()).contains("Capture the stems first");
        assertThat(run("capture", session(), "--stems", "tracks", "--json")).isZero();
        JsonNode captured = json("capture").get("captured");
        assertThat(captured).hasSize(2);
        assertThat(captured.get(1).get("stem").textValue()).isEqualTo("quieter");
        assertThat(run("stems", session(), "--out", stems, "--json")).isZero();
        assertThat(json("stems").get("proof").get("holds").booleanValue()).isTrue();
        assertThat(run("capture", session(), "--stems", "words")).isEqualTo(2);
    }

    /** Whenever a capture is killed: the session old or new as a whole, recordings that play, and nothing left for ever. */
    @Test
    void a_kill_while_capturing_leaves_a_session_that_opens_and_files_that_play() throws Exception {
        assertThat(run("time", session(), "--apply")).isZero();
        Session before = loaded();
        Path captures = folder.resolve("song").resolve("captures");
        SplittableRandom random = new SplittableRandom(8);
        for (int round = 0; round < 5; round++) {
            Process capture = start("capture", session(), "tone");
            capture.waitFor(250 + random.nextInt(700), TimeUnit.MILLISECONDS);
            capture.destroyForcibly().waitFor();
            Session found = loaded();
            boolean old = found.equals(before);
            assertThat(old || found.sources().size() == before.sources().size() + 1)
                    .isTrue();
            for (Path file : recordings(captures)) {
                try (AudioFile audio = AudioFiles.open(file)) {
                    // The song and four seconds of tail.
                    assertThat(audio.format().frames()).isEqualTo(5 * 48_000L);
                }
            }
        }
        assertThat(run("capture", session(), "tone")).isZero();
        try (Stream<Path> all = Files.list(captures)) {
            assertThat(all.map(file -> String.valueOf(file.getFileName()))).allMatch(name -> name.endsWith(".wav"));
        }
        assertThat(run("mix", session(), "--out", folder.resolve("mix.wav").toString()))
                .isZero();
    }

    @Test
    void what_comes_in_is_recorded_to_a_clip_in_time_and_a_track_without_an_input_is_told_of() throws Exception {
        assertThat(run("record", session(), "tone", "--for", "0.5")).isEqualTo(2);
        assertThat(said()).contains("No input feeds tone: say which with --input N.");
        assertThat(run("record", session(), "tone", "--for", "0.5", "--input", "4", "--at", "0.25", "--json"))
                .isZero();
        JsonNode one = json("record").get("recorded").get(0);
        assertThat(one.get("path").textValue()).startsWith("recordings/");
        // One block and the converters later than the song.
        assertThat(one.get("songFrame").longValue()).isEqualTo(12_000 - 320);
        assertThat(one.get("frames").longValue()).isBetween(24_000L, 48_000L);
        Session after = loaded();
        assertThat(after.tracks().getFirst().clips()).hasSizeGreaterThanOrEqualTo(2);
        assertThat(run("record", session(), "tone", "--for", "0.2", "--input", "99"))
                .isEqualTo(2);
        assertThat(said()).contains("There is no input 99: inputs are numbered from 1 to 64.");
    }

    /** Whenever a recording is killed: the session as it was, and a file that plays but for the last second. */
    @Test
    @Tag("process") // started from the class path
    void a_kill_while_recording_leaves_a_session_that_opens_and_a_file_that_plays() throws Exception {
        Session before = loaded();
        Process recording = start("record", session(), "tone", "--input", "4", "--for", "60");
        Path file = folder.resolve("song")
                .resolve("recordings")
                .resolve(before.tracks().getFirst().id().value() + "-1.wav");
        // Until more than two seconds are in the file.
        long end = System.nanoTime() + 60_000_000_000L;
        while ((!Files.exists(file) || Files.size(file) < 2 * 48_000 * 4) && System.nanoTime() < end) {
            TimeUnit.MILLISECONDS.sleep(10);
        }
        recording.destroyForcibly().waitFor();
        assertThat(loaded()).isEqualTo(before);
        long held = Files.size(file) / 4;
        try (AudioFile audio = AudioFiles.open(file)) {
            assertThat(audio.format().frames()).isBetween(Math.max(48_000, held - 48_000), held);
        }
        // The next recording takes another name.
        assertThat(run("record", session(), "tone", "--for", "0.2", "--input", "4"))
                .isZero();
        assertThat(said()).contains("-2.wav");
    }

    private static List<Path> recordings(Path captures) throws Exception {
        if (!Files.isDirectory(captures)) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(captures)) {
            return all.filter(file -> !String.valueOf(file.getFileName()).startsWith("."))
                    .toList();
        }
    }
}
