package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.store.SessionFolder;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class CommandsTest extends RunCommands {
    private Path tone(String name, double peakDbfs, int seconds) throws Exception {
        float[][] planes = new float[1][48_000 * seconds];
        double amplitude = Math.pow(10, peakDbfs / 20);
        for (int i = 0; i < planes[0].length; i++) {
            planes[0][i] = (float) (amplitude * Math.sin(2 * Math.PI * 1_000 * i / 48_000));
        }
        Path file = folder.resolve(name);
        try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.PCM_24, planes[0].length)) {
            writer.write(planes, 0, planes[0].length);
            writer.finish();
        }
        return file;
    }

    @Nested
    class Measure {
        @Test
        void a_tone_reads_its_level_in_every_figure() throws Exception {
            Path file = tone("tone.wav", -18, 5);
            assertThat(run("measure", "--json", file.toString())).isZero();
            JsonNode found = json("measure").get("files").get(0);
            assertThat(found.get("samplePeakDbfs").doubleValue()).isCloseTo(-18, within(0.01));
            assertThat(found.get("averageDbfs").doubleValue()).isCloseTo(-18, within(0.01));
            // A mono tone at 1 kHz reads 3.01 below its peak, as BS.1770 has it for one channel, and the filter +0.0.
            assertThat(found.get("integratedLufs").doubleValue()).isCloseTo(-21, within(0.05));
            assertThat(found.get("frames").longValue()).isEqualTo(240_000);
            assertThat(found.get("correlation").isNull()).isTrue();
        }

        @Test
        void a_file_that_cannot_be_read_does_not_stop_the_others() throws Exception {
            Path broken = Files.writeString(folder.resolve("broken.wav"), "no audio");
            Path file = tone("tone.wav", -18, 1);
            assertThat(run("measure", "--json", broken.toString(), file.toString()))
                    .isEqualTo(1);
            JsonNode files = json("measure").get("files");
            assertThat(files.get(0).get("ok").booleanValue()).isFalse();
            assertThat(files.get(0).get("error").textValue()).startsWith("broken.wav is not an audio file");
            assertThat(files.get(1).get("ok").booleanValue()).isTrue();
            assertThat(err()).hasLineCount(1);
        }

        @Test
        void series_end_where_their_windows_end() throws Exception {
            Path list = Files.writeString(folder.resolve("list.txt"), tone("tone.wav", -18, 4) + "\n\n");
            assertThat(run("measure", "--json", "--series", "--list", list.toString()))
                    .isZero();
            JsonNode found = json("measure").get("files").get(0);
            assertThat(found.get("momentarySeries").get(0).get(0).doubleValue()).isEqualTo(0.4);
            assertThat(found.get("shortTermSeries").get(0).get(0).doubleValue()).isEqualTo(3.0);
            assertThat(found.get("vuSeries").size()).isEqualTo(400);
        }

        @Test
        void lines_come_one_a_file() throws Exception {
            String file = tone("tone.wav", -18, 1).toString();
            assertThat(run("measure", "--jsonl", file, file)).isZero();
            assertThat(out().lines()).hasSize(2).allMatch(l -> l.startsWith("{\"path\""));
        }

        @Test
        void no_file_is_wrong_usage() {
            assertThat(run("measure")).isEqualTo(2);
            assertThat(err()).contains("Name a file to measure");
        }
    }

    @Nested
    class Sessions {
        private String session = "";

        @BeforeEach
        void two_tones_become_a_session() throws Exception {
            session = folder.resolve("song").toString();
            assertThat(run(
                            "new",
                            session,
                            tone("one.wav", -12, 3).toString(),
                            tone("two.wav", -9, 3).toString(),
                            "--pan-law=-6",
                            "--json"))
                    .isZero();
            assertThat(json("new").get("tracks").intValue()).isEqualTo(2);
        }

        @Test
        void its_file_fits_the_published_schema() throws Exception {
            String text = Files.readString(Path.of(session, "session.json"));
            assertThat(fitting(text, "session").get("panLaw").textValue()).isEqualTo("-6 dB");
        }

        @Test
        void rides_are_listed_written_and_read_again() throws Exception {
            String csv = folder.resolve("rides.csv").toString();
            assertThat(run("rides", session, "--json")).isZero();
            assertThat(json("rides").get("curves")).isEmpty();
            Files.writeString(Path.of(csv), """
                channel,parameter,reach,layer,suspended,time,value,unit,shape
                one,faderDb,song,written,false,0.5,-6,dB,smooth
                one,faderDb,song,written,false,1.25,0,dB,line
                one,faderDb,song,offset,false,0,-1.5,dB,hold
                """);
            assertThat(run("rides", session, "--import", csv)).isZero();
            assertThat(out()).contains("--apply");
            assertThat(run("rides", session, "--import", csv, "--apply", "--json"))
                    .isZero();
            JsonNode curve = json("rides").get("curves").get(0);
            assertThat(curve.get("parameter").textValue()).isEqualTo("faderDb");
            assertThat(curve.get("points").intValue()).isEqualTo(2);
            String back = folder.resolve("back.csv").toString();
            assertThat(run("rides", session, "--export", back)).isZero();
            // It names the track by its id, which stays when it is renamed.
            assertThat(Path.of(back)).hasContent(Files.readString(Path.of(csv)).replace("\none,", "\nt1,"));
            // A tone of -12 dBFS, at most 1.5 dB down.
            assertThat(run("levels", session, "--json")).isZero();
            JsonNode stages = json("levels").get("channels").get(0).get("stages");
            double fader = StreamSupport.stream(stages.spliterator(), false)
                    .filter(s -> s.get("stage").textValue().equals("fader"))
                    .findFirst()
                    .orElseThrow()
                    .get("samplePeakDbfs")
                    .doubleValue();
            assertThat(fader).isCloseTo(-13.5, within(0.01));
        }

        @Test
        void channels_make_room_for_another_and_wrong_names_are_told() {
            assertThat(run("rides", session, "--make-room", "one", "--for", "two", "--depth", "6", "--apply"))
                    .isZero();
            assertThat(out()).contains("two").contains("with an offset");
            assertThat(run("rides", session, "--make-room", "one")).isEqualTo(2);
            assertThat(err()).contains("who is to step back");
            assertThat(run("rides", session, "--make-room", "nobody", "--for", "two"))
                    .isEqualTo(2);
            assertThat(err()).contains("no channel 'nobody'");
        }

        @Test
        void room_by_a_bell_and_a_held_level_tell_what_they_would_do() throws Exception {
            assertThat(run("rides", session, "--make-room", "one", "--for", "two", "--by", "bell", "--apply"))
                    .isZero();
            assertThat(out())
                    .contains("one over the rest, LU:")
                    .contains("Whole song")
                    .contains("Equaliser: bell 2 gain");
            assertThat(run("rides", session, "--hold-level", "one", "--range", "3"))
                    .isZero();
            assertThat(err()).contains("No phrase of 'one' lies further from its own loudness");
            assertThat(run("rides", session, "--range", "3")).isEqualTo(2);
            assertThat(err()).contains("--range belongs to --hold-level");
            assertThat(run("rides", session, "--by", "bell")).isEqualTo(2);
            assertThat(err()).contains("--by belong to --make-room");
            assertThat(run("rides", session, "--hold-level", "one", "--range", "40"))
                    .isEqualTo(2);
            assertThat(err()).contains("0.5").contains("12");
        }

        @Test
        void levels_are_there_at_every_stage() throws Exception {
            assertThat(run("levels", session, "--json")).isZero();
            JsonNode document = json("levels");
            JsonNode stages = document.get("channels").get(0).get("stages");
            assertThat(StreamSupport.stream(stages.spliterator(), false)
                            .map(s -> s.get("stage").textValue()))
                    .containsExactly("source", "clips", "trim", "fader", "placement", "output");
            assertThat(stages.get(4).get("samplePeakDbfs").doubleValue()).isCloseTo(-18.02, within(0.01));
            assertThat(document.get("main").get("kind").textValue()).isEqualTo("bus");
        }

        @Test
        void levels_of_one_section_are_its_own_and_an_unknown_one_is_named() throws Exception {
            assertThat(run("levels", session, "--section", "bridge")).isEqualTo(2);
            assertThat(err()).contains("no section 'bridge'").contains("none at all");
            Path file = Path.of(session, "session.json");
            String sections =
                    "\"sections\" : [ { \"name\" : \"Bridge\", \"startFrames\" : 4800," + " \"endFrames\" : 48000 } ]";
            Files.writeString(file, Files.readString(file).replaceFirst("\"sections\" : \\[ ]", sections));
            assertThat(run("levels", session, "--section", "bridge", "--json")).isZero();
            JsonNode document = json("levels");
            assertThat(document.get("section").get("startFrames").intValue()).isEqualTo(4_800);
            JsonNode source = document.get("channels").get(0).get("stages").get(0);
            assertThat(source.get("samplePeakDbfs").doubleValue()).isCloseTo(-12, within(0.01));
            assertThat(source.get("peakAtSeconds").doubleValue()).isBetween(0.1, 1.0);
        }

        @Test
        void clip_gains_are_proposed_in_place_of_trims() throws Exception {
            assertThat(run("stage", session, "--clips", "--apply", "--json")).isZero();
            JsonNode proposal = json("stage").get("proposals").get(1);
            assertThat(proposal.get("proposedTrimDb").doubleValue()).isZero();
            assertThat(proposal.get("proposedClipGainsDb").get(0).doubleValue()).isCloseTo(-9, within(0.01));
            assertThat(Files.readString(Path.of(session, "session.json"))).contains("\"gainDb\" : -9.0");
        }

        @Test
        void stems_may_be_flac() throws Exception {
            Path stems = folder.resolve("flac stems");
            assertThat(run("stems", session, "--out", stems.toString(), "--format", "flac24", "--json"))
                    .isZero();
            assertThat(json("stems").get("proof").get("nulls").booleanValue()).isTrue();
            assertThat(stems.resolve("Mix.flac")).exists();
        }

        @Test
        void stems_by_bus_go_on_for_their_tail_and_other_words_are_refused() throws Exception {
            String stems = folder.resolve("bus stems").toString();
            assertThat(run("stems", session, "--out", stems, "--by", "buses", "--tail", "0.5", "--json"))
                    .isZero();
            JsonNode document = json("stems");
            assertThat(document.get("division").textValue()).isEqualTo("buses");
            assertThat(document.get("frames").longValue() % 48_000).isEqualTo(24_000);
            assertThat(document.get("proof").get("nulls").booleanValue()).isTrue();
            assertThat(run("stems", session, "--out", stems, "--by", "busses")).isEqualTo(2);
            assertThat(err()).contains("neither tracks nor buses nor named");
            assertThat(run("mix", session, "--out", stems + "/m.wav", "--tail", "99"))
                    .isEqualTo(2);
            assertThat(err()).contains("'99' is not a number of seconds from 0 to 60");
        }

        @Test
        void stems_are_put_together_and_cut_as_asked() throws Exception {
            String stems = folder.resolve("put together").toString();
            assertThat(run(
                            "stems",
                            session,
                            "--out",
                            stems,
                            "--stem",
                            "Both=one, TWO",
                            "--returns",
                            "apart",
                            "--from",
                            "1",
                            "--to",
                            "2.5",
                            "--mono",
                            "--json"))
                    .isZero();
            JsonNode document = json("stems");
            assertThat(document.get("division").textValue()).isEqualTo("named");
            assertThat(document.get("returnsApart").booleanValue()).isTrue();
            assertThat(document.get("startFrames").longValue()).isEqualTo(48_000);
            assertThat(document.get("frames").longValue()).isEqualTo(72_000);
            assertThat(document.get("section").textValue()).isEqualTo("0:01.0 to 0:02.5");
            assertThat(document.get("files").get(1).get("path").textValue()).isEqualTo("01 Both.wav");
            // Two mono tracks in the middle have the same sides, and so has their sum; the mix stays stereo.
            assertThat(document.get("files").findValuesAsText("sides")).containsExactly("2", "1");
            assertThat(document.get("proof").get("nulls").booleanValue()).isTrue();
            assertThat(run("stems", session, "--out", stems, "--stem", "Both=three"))
                    .isEqualTo(2);
            assertThat(err()).contains("no channel 'three'").contains("one, two");
            assertThat(run("stems", session, "--out", stems, "--stem", "Both")).isEqualTo(2);
            assertThat(err()).contains("'Both' is no stem");
            assertThat(run("stems", session, "--out", stems, "--section", "Bridge"))
                    .isEqualTo(2);
            assertThat(err()).contains("no section 'Bridge'");
            assertThat(run("stems", session, "--out", stems, "--from", "2", "--to", "1"))
                    .isEqualTo(2);
            assertThat(err()).contains("is empty");
            assertThat(run("stems", session, "--out", stems, "--returns", "gone"))
                    .isEqualTo(2);
            assertThat(err()).contains("'gone' is neither shared nor apart");
        }

        @Test
        void stems_are_taken_and_treated_as_asked_each_to_target_and_what_is_there_is_not_rendered_again()
                throws Exception {
            String stems = folder.resolve("asked").toString();
            String[] asked = {
                "stems",
                session,
                "--out",
                stems,
                "--treat",
                "alone",
                "--tap",
                "before-main",
                "--each-loudness",
                "-30",
                "--json"
            };
            assertThat(run(asked)).isZero();
            JsonNode first = json("stems");
            assertThat(first.get("treatment").textValue()).isEqualTo("alone");
            assertThat(first.get("tap").textValue()).isEqualTo("before-main");
            assertThat(first.get("policy").textValue()).isEqualTo("each to target");
            JsonNode stem = first.get("files").get(1);
            assertThat(stem.get("integratedLufs").doubleValue()).isCloseTo(-30, within(0.01));
            assertThat(stem.get("gainDb").doubleValue()).isNotZero();
            assertThat(stem.get("upToDate").booleanValue()).isFalse();
            assertThat(run(asked)).isZero();
            assertThat(json("stems").get("files").findValuesAsText("upToDate")).containsOnly("true");
            assertThat(run("stems", session, "--out", stems, "--treat", "loud")).isEqualTo(2);
            assertThat(err()).contains("'loud' is neither mix nor alone");
            assertThat(run("stems", session, "--out", stems, "--tap", "main")).isEqualTo(2);
            assertThat(err()).contains("'main' is neither after-main nor before-main");
        }

        @Test
        void a_pair_of_the_interface_that_clips_is_in_the_levels_and_a_finding() throws Exception {
            Path file = Path.of(session, "session.json");
            String text = Files.readString(file);
            // The first track goes to outputs 3 and 4, 20 dB up from -12 dBFS.
            String changed = text.replaceFirst("\"output\" : \"main\"", "\"output\" : null, \"interfacePair\" : 2")
                    .replaceFirst("\"trimDb\" : 0.0", "\"trimDb\" : 20.0");
            assertThat(changed).isNotEqualTo(text);
            Files.writeString(file, changed);
            assertThat(run("levels", session, "--json")).isZero();
            JsonNode pair = json("levels").get("pairs").get(0);
            assertThat(pair.get("name").textValue()).isEqualTo("Outputs 3\u20134");
            // Centred under the -6 dB law.
            assertThat(pair.get("samplePeakDbfs").doubleValue()).isCloseTo(-12 + 20 - 6.02, within(0.01));
            assertThat(run("check", session, "--json")).isEqualTo(1);
            assertThat(json("check").get("findings").get(0).get("rule").textValue())
                    .isEqualTo("output-clips");
        }

        @Test
        void a_VCA_is_in_the_levels_with_its_loudest_member() throws Exception {
            Session saved = SessionFolder.load(Path.of(session)).session();
            ChannelId first = saved.tracks().getFirst().id();
            Vca all = new Vca(new ChannelId("v"), "All", -4, false, List.of(first), List.of());
            SessionFolder.save(saved.withVcas(List.of(all)), Path.of(session));
            assertThat(run("levels", session, "--json")).isZero();
            JsonNode vca = json("levels").get("vcas").get(0);
            assertThat(vca.get("loudest").textValue()).isEqualTo(first.value());
            assertThat(vca.get("sides").get(0).get("samplePeakDbfs").doubleValue())
                    .isCloseTo(-12 - 4, within(0.01));
            assertThat(run("levels", session)).isZero();
            assertThat(out()).contains("VCA All, loudest member");
        }

        @Test
        void a_session_over_full_scale_has_a_finding_with_its_remedy_and_ends_with_status_1() throws Exception {
            String hot = folder.resolve("hot").toString();
            String tone = tone("hot.wav", -1, 3).toString();
            run("new", hot, tone, tone("hot too.wav", -1, 3).toString(), "--pan-law=0");
            assertThat(run("check", hot, "--json")).isEqualTo(1);
            JsonNode finding = json("check").get("findings").get(0);
            assertThat(finding.get("rule").textValue()).isEqualTo("main-over-full-scale");
            assertThat(finding.get("severity").textValue()).isEqualTo("risk");
            assertThat(finding.get("remedy").textValue()).isEqualTo("Trim of Main");
        }

        @Test
        void staging_proposes_and_changes_nothing_until_it_is_told_to() throws Exception {
            byte[] before = Files.readAllBytes(Path.of(session, "session.json"));
            assertThat(run("stage", session, "--json")).isZero();
            JsonNode proposals = json("stage").get("proposals");
            // A tone's average is its peak: -12 and -9 dBFS come down to -18.
            assertThat(proposals.get(0).get("proposedTrimDb").doubleValue()).isCloseTo(-6, within(0.01));
            assertThat(proposals.get(1).get("proposedTrimDb").doubleValue()).isCloseTo(-9, within(0.01));
            assertThat(Files.readAllBytes(Path.of(session, "session.json"))).isEqualTo(before);
            assertThat(run("stage", session, "--apply")).isZero();
            assertThat(run("stage", session, "--json")).isZero();
            JsonNode again = json("stage");
            assertThat(again.get("proposals").get(1).get("presentTrimDb").doubleValue())
                    .isCloseTo(-9, within(0.01));
            // Two equal tones at -18 dBFS, each 6.02 dB lower in the centre under this law: -18 again, 18 dB of room.
            assertThat(again.get("main").get("presentHeadroomDb").doubleValue()).isCloseTo(18.0, within(0.05));
        }

        @Test
        void staging_a_track_that_is_not_there_names_those_that_are() {
            assertThat(run("stage", session, "--track", "bagpipe")).isEqualTo(2);
            assertThat(err()).contains("no track 'bagpipe'").contains("one, two");
        }

        @Test
        void stems_are_rendered_with_their_manifest_and_proof() throws Exception {
            Path stems = folder.resolve("stems");
            assertThat(run("stems", session, "--out", stems.toString(), "--mix-headroom", "4", "--json"))
                    .isZero();
            JsonNode manifest = json("stems");
            assertThat(manifest.get("proof").get("holds").booleanValue()).isTrue();
            assertThat(manifest.get("policy").textValue()).isEqualTo("common gain");
            assertThat(manifest.get("files").get(0).get("headroomDb").doubleValue())
                    .isCloseTo(4, within(0.001));
            assertThat(stems.resolve("stems.json")).exists();
            assertThat(stems.resolve("stems.html")).exists();
        }

        @Test
        void two_level_policies_at_once_are_wrong_usage() {
            assertThat(run("stems", session, "--out", "x", "--mix-headroom", "4", "--stem-peak", "-1"))
                    .isEqualTo(2);
        }

        @Test
        void the_mix_is_rendered_alone() throws Exception {
            Path mix = folder.resolve("mix.wav");
            assertThat(run("mix", session, "--out", mix.toString(), "--format", "32f", "--json"))
                    .isZero();
            assertThat(json("mix").get("encoding").textValue()).isEqualTo("WAV 32-bit float");
            assertThat(mix).exists();
        }

        @Test
        void a_second_session_in_the_same_folder_is_refused_in_one_line() throws Exception {
            assertThat(run("new", session, tone("one.wav", -12, 1).toString())).isEqualTo(1);
            assertThat(err()).hasLineCount(1).contains("already holds a session");
        }

        @Test
        void without_the_application_opening_it_says_so() {
            assertThat(run("open", session)).isEqualTo(1);
            assertThat(err()).contains("not part of this installation");
        }

        @Test
        void a_file_manager_may_hand_over_the_sessions_file_and_no_other() throws Exception {
            Path file = Path.of(session, "session.json");
            assertThat(OpenCommand.readable(file)).isEqualTo(Path.of(session).toAbsolutePath());
            assertThat(OpenCommand.readable(Path.of(session))).isEqualTo(Path.of(session));
            Path other = Files.copy(file, folder.resolve("other.json"));
            assertThat(run("open", other.toString())).isEqualTo(1);
            assertThat(err()).contains("other.json").doesNotContain("not part of this installation");
        }
    }

    @Test
    void a_folder_that_is_no_session_is_refused_in_one_line_without_a_trace() {
        assertThat(run("levels", folder.toString())).isEqualTo(1);
        assertThat(err()).hasLineCount(1).contains("not a session folder").doesNotContain("\tat ");
    }

    @Test
    void debug_shows_where_an_error_came_from() {
        assertThat(run("levels", folder.toString(), "--debug")).isEqualTo(1);
        assertThat(err()).contains("\tat waterwheel");
    }

    @Test
    void an_unknown_command_is_wrong_usage() {
        assertThat(run("sing")).isEqualTo(2);
    }
}
