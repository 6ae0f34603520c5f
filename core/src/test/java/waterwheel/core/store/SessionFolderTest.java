package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.controllers.ControllerPart;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Convolution;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Assignment;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Section;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SessionFolderTest {
    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void a_session_with_every_kind_of_channel() throws Exception {
        session = new Sessions(folder)
                .track("a", "bus", Signals.noise(0.1, 10, 1))
                .track("c", "main", Track.Kind.CUE, SampleEncoding.PCM_16, Signals.noise(0.1, 10, 1))
                .bus("bus", "main")
                .build()
                .withPanLaw(PanLaw.MINUS_4_5)
                .withStrip(Sessions.id("a"), s -> s.withFaderDb(Double.NEGATIVE_INFINITY)
                        .withTrimDb(-3.25))
                .withStrip(Sessions.id("bus"), s -> s.withMuted(true).withSoloSafe(true))
                .withSections(List.of(new Section("Verse", 2, 7)))
                .withStrip(
                        Sessions.id("bus"),
                        s -> s.withInserts(List.of(Insert.of(new SlotId("1"), Compressor.KIND)
                                .withMix(0.5)
                                .withBypassed(true))))
                .withStrip(Sessions.id("a"), s -> s.withSends(List.of(
                                Send.toBus(Sessions.id("bus"), Double.NEGATIVE_INFINITY)
                                        .withPlacement(Optional.of(Placement.CENTRE.withPosition(0.5))),
                                Send.toKey(Sessions.id("bus"), new SlotId("1"))))
                        .withExtraOutputs(List.of(Sessions.MAIN)))
                .withVcas(
                        List.of(new Vca(Sessions.id("v"), "Voices", -2.5, true, List.of(Sessions.id("a")), List.of())))
                .withLinks(List.of(LinkGroup.of(Sessions.id("l"), "Pair", List.of(Sessions.id("a"), Sessions.id("bus")))
                        .withExempt(List.of(Sessions.id("bus")))
                        .withBeyond(List.of(new LinkGroup.Beyond(Sessions.id("a"), LinkGroup.Attribute.FADER, -93.5)))))
                .withAssignments(List.of(
                        new Assignment(
                                new ControllerPart("Desk", ControllerPart.Kind.CONTROL, 16, 7),
                                ControlId.ofStrip(Sessions.id("a"), "faderDb")),
                        new Assignment(
                                new ControllerPart("Desk", ControllerPart.Kind.BEND, 1, 0),
                                ControlId.ofSend(Sessions.id("a"), 1, "levelDb")),
                        new Assignment(
                                new ControllerPart("Pads", ControllerPart.Kind.NOTE, 1, 36),
                                ControlId.ofInsert(Sessions.id("gone"), new SlotId("r"), "bypassed"))))
                .withStrip(Sessions.id("c"), s -> s.withOutput(new Output.ToInterface(3))
                        .withInserts(List.of(Insert.of(new SlotId("r"), Convolution.KIND)
                                .withProcessor(Processor.usual(Convolution.KIND).withResponse(new SourceId("a"))))))
                .withChannel(Sessions.id("c"), c -> ((Track) c)
                        .withClips(List.of(new Clip(new SourceId("c"), 0, 0, 10, -1.5)
                                .withFades(2, 3)
                                .withGainCurve(new Curve(List.of(
                                        new CurvePoint(0, 1.25, CurvePoint.Shape.HOLD),
                                        new CurvePoint(4, -3, CurvePoint.Shape.SMOOTH),
                                        new CurvePoint(9, 0, CurvePoint.Shape.LINE))))
                                .withRide(new ClipRide(
                                        new ControlId.OfStrip(),
                                        "position",
                                        new Curve(List.of(new CurvePoint(3, -0.25, CurvePoint.Shape.SMOOTH)))))
                                .withRide(new ClipRide(
                                        new ControlId.OfInsert(new SlotId("r")),
                                        "mix",
                                        new Curve(List.of(new CurvePoint(0, -0.5, CurvePoint.Shape.LINE))))))));
        session = FlowEdits.addTapped(session.channel(Sessions.id("bus")), Tap.Point.POST_FADER)
                .apply(session);
    }

    private String saved() throws Exception {
        SessionFolder.save(session, folder);
        return Files.readString(folder.resolve(SessionFolder.SESSION_FILE));
    }

    private void write(String text) throws Exception {
        Files.writeString(folder.resolve(SessionFolder.SESSION_FILE), text);
    }

    @Test
    void what_was_saved_is_what_is_loaded() throws Exception {
        saved();
        SessionFolder.Loaded loaded = SessionFolder.load(folder);
        assertThat(loaded.session()).isEqualTo(session);
        assertThat(loaded.unknownFields()).isEmpty();
    }

    @Test
    void what_is_saved_fits_the_published_schema() throws Exception {
        saved();
        JsonSchema schema = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                .getSchema(Files.readString(Path.of("..", "docs", "schema", "session.schema.json")));
        assertThat(schema.validate(new ObjectMapper()
                        .readTree(folder.resolve(SessionFolder.SESSION_FILE).toFile())))
                .isEmpty();
    }

    @Test
    void saving_twice_writes_the_same_text_and_keeps_the_earlier_save() throws Exception {
        String first = saved();
        session = session.withTitle("Later");
        assertThat(saved()).isNotEqualTo(first);
        try (var earlier = Files.list(folder.resolve("earlier"))) {
            assertThat(Files.readString(earlier.findFirst().orElseThrow())).isEqualTo(first);
        }
    }

    @Nested
    class Refusals {
        private void assertRefused(String text, String... words) throws Exception {
            write(text);
            assertThatExceptionOfType(SessionFileException.class)
                    .isThrownBy(() -> SessionFolder.load(folder))
                    .satisfies(e -> assertThat(e.getMessage()).contains(words).contains(SessionFolder.SESSION_FILE));
        }

        @Test
        void a_newer_version_is_refused_and_left_alone() throws Exception {
            String newer = saved().replace("\"version\" : 1", "\"version\" : 2");
            assertRefused(newer, "newer Waterwheel", "version 2");
            assertThat(Files.readString(folder.resolve(SessionFolder.SESSION_FILE)))
                    .isEqualTo(newer);
        }

        @Test
        void what_is_no_JSON_is_refused() throws Exception {
            assertRefused("{\"format\":", "damaged");
            Files.write(folder.resolve(SessionFolder.SESSION_FILE), new byte[] {(byte) 0xFF, (byte) 0xFE, 0});
            assertThatExceptionOfType(SessionFileException.class).isThrownBy(() -> SessionFolder.load(folder));
        }

        @Test
        void a_value_out_of_range_is_named_with_its_place() throws Exception {
            assertRefused(saved().replace("\"trimDb\" : -3.25", "\"trimDb\" : 99"), "channels[0].trimDb", "99");
        }

        @Test
        void a_missing_field_is_named_with_its_place() throws Exception {
            assertRefused(saved().replace("\"panLaw\" : \"-4.5 dB\",", ""), "panLaw is missing");
        }

        @Test
        void a_loop_is_named_in_words() throws Exception {
            String text =
                    new Sessions(folder).bus("x", "y").bus("y", "main").build().toString();
            assertThat(text).isNotEmpty();
            session = new Sessions(folder).bus("x", "y").bus("y", "main").build();
            assertRefused(saved().replaceFirst("(?s)(\"id\" : \"y\".*?\"output\" : )\"main\"", "$1\"x\""), "x → y → x");
        }

        @Test
        void a_path_out_of_the_folder_is_refused() throws Exception {
            assertRefused(saved().replace("\"path\" : \"a.wav\"", "\"path\" : \"../a.wav\""), "points out");
        }

        @Test
        void a_folder_without_a_session_says_what_is_missing() {
            assertThatExceptionOfType(SessionFileException.class)
                    .isThrownBy(() -> SessionFolder.load(folder))
                    .withMessageContaining("not a session folder");
        }

        @Test
        void whatever_a_file_holds_it_is_loaded_or_refused_in_words() throws Exception {
            byte[] text = saved().getBytes(StandardCharsets.UTF_8);
            SplittableRandom random = new SplittableRandom(3);
            for (int round = 0; round < 1_500; round++) {
                byte[] mutated = text.clone();
                for (int i = 0; i < 1 + random.nextInt(4); i++) {
                    mutated[random.nextInt(mutated.length)] = (byte) (32 + random.nextInt(95));
                }
                Files.write(folder.resolve(SessionFolder.SESSION_FILE), mutated);
                try {
                    assertThat(SessionFolder.load(folder).session()).isNotNull();
                } catch (SessionFileException e) {
                    assertThat(e.problem()).isNotBlank();
                    assertThat(e.remedy()).isNotBlank();
                }
            }
        }
    }

    @Test
    void a_field_that_is_not_known_is_reported_with_its_place() throws Exception {
        write(saved().replaceFirst("\"trimDb\"", "\"shimmer\" : 3,\n \"trimDb\""));
        assertThat(SessionFolder.load(folder).unknownFields()).containsExactly("channels[0].shimmer");
    }

    /** Saves two sessions in turn until it is killed. */
    static final class SavingProcess {
        public static void main(String[] args) throws Exception {
            Path folder = Path.of(args[0]);
            Session session = SessionFolder.load(folder).session();
            System.out.println("saving");
            for (int i = 0; ; i++) {
                SessionFolder.save(session.withTitle(i % 2 == 0 ? "even" : "odd"), folder);
            }
        }
    }

    @Test
    @Tag("process") // started from the class path
    void a_process_killed_while_saving_leaves_a_whole_session() throws Exception {
        saved();
        SplittableRandom random = new SplittableRandom(11);
        for (int round = 0; round < 8; round++) {
            Process process = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-cp",
                            System.getProperty("java.class.path"),
                            SavingProcess.class.getName(),
                            folder.toString())
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            assertThat(process.inputReader().readLine()).isEqualTo("saving");
            Thread.sleep(random.nextInt(60));
            process.destroyForcibly();
            assertThat(process.waitFor(20, TimeUnit.SECONDS)).isTrue();
            assertThat(SessionFolder.load(folder).session().title()).isIn("even", "odd", "Test");
        }
    }

    @Nested
    class New_sessions {
        @Test
        void a_folder_of_files_becomes_a_session_and_what_does_not_fit_is_named() throws Exception {
            Path takes = Files.createDirectory(folder.resolve("takes"));
            Signals.wav(takes.resolve("02_guitar.wav"), 48_000, SampleEncoding.PCM_24, Signals.noise(0.1, 100, 1));
            Signals.wav(
                    takes.resolve("01 keys.wav"),
                    48_000,
                    SampleEncoding.FLOAT_32,
                    Signals.noise(0.1, 100, 1),
                    Signals.noise(0.1, 100, 2));
            Signals.wav(takes.resolve("old.wav"), 44_100, SampleEncoding.PCM_16, Signals.noise(0.1, 100, 1));
            Files.writeString(takes.resolve("broken.wav"), "not audio");
            Files.writeString(takes.resolve("notes.txt"), "not audio");
            Path target = folder.resolve("song");
            NewSession.Made made = NewSession.make(target, List.of(takes), NewSession.Options.DEFAULT, Progress.NONE);
            assertThat(made.session().tracks().stream().map(Track::name)).containsExactly("keys", "guitar", "old");
            assertThat(made.session().sampleRateHz()).isEqualTo(48_000);
            assertThat(made.refused().stream().map(Throwable::getMessage))
                    .singleElement()
                    .asString()
                    .startsWith("broken.wav is not an audio file");
            // 100 frames at 44.1 kHz are 108.8 at 48 kHz.
            assertThat(made.session().tracks().getLast().clips().getFirst().lengthFrames())
                    .isEqualTo(109);
            assertThat(target.resolve("audio/originals/old.wav")).hasSameBinaryContentAs(takes.resolve("old.wav"));
            assertThat(SessionFolder.load(target).session()).isEqualTo(made.session());
            assertThat(target.resolve("audio/01 keys.wav")).exists();
        }

        @Test
        void broadcast_files_are_placed_by_their_time_references_when_that_is_wanted() throws Exception {
            Path early = broadcast("early.wav", 172_800_000);
            Path late = broadcast("late.wav", 172_800_000 + 48_000);
            NewSession.Options byTime =
                    new NewSession.Options(OptionalInt.empty(), PanLaw.MINUS_3, -18, true, true, false);
            Session session = NewSession.make(folder.resolve("song"), List.of(late, early), byTime, Progress.NONE)
                    .session();
            assertThat(session.tracks().stream().map(t -> t.clips().getFirst().startFrames()))
                    .containsExactly(48_000L, 0L);
        }

        @Test
        void a_file_without_a_time_reference_begins_with_the_song_and_moves_no_other() throws Exception {
            Path plain =
                    Signals.wav(folder.resolve("plain.wav"), 48_000, SampleEncoding.PCM_16, Signals.noise(0.1, 100, 1));
            List<Path> files =
                    List.of(plain, broadcast("late.wav", 1_800_048_000L), broadcast("early.wav", 1_800_000_000L));
            NewSession.Options byTime =
                    new NewSession.Options(OptionalInt.empty(), PanLaw.MINUS_3, -18, true, true, false);
            Session session = NewSession.make(folder.resolve("song"), files, byTime, Progress.NONE)
                    .session();
            assertThat(session.tracks().stream().map(t -> t.clips().getFirst().startFrames()))
                    .containsExactly(0L, 48_000L, 0L);
        }

        @Test
        void an_absurd_time_reference_makes_no_session_that_could_not_be_read_again() throws Exception {
            Path early = broadcast("early.wav", 0);
            NewSession.Options byTime =
                    new NewSession.Options(OptionalInt.empty(), PanLaw.MINUS_3, -18, true, true, false);
            for (long reference : new long[] {49L * 3_600 * 48_000, 1L << 41, Long.MAX_VALUE}) {
                Path absurd = broadcast("absurd.wav", reference);
                Path target = folder.resolve("song");
                assertThatExceptionOfType(SessionFileException.class)
                        .isThrownBy(() -> NewSession.make(target, List.of(early, absurd), byTime, Progress.NONE))
                        .withMessageContaining("absurd states a time reference")
                        .withMessageContaining("without time references");
                assertThat(target.resolve(SessionFolder.SESSION_FILE)).doesNotExist();
                assertThat(target).as("nothing is left of it").isEmptyDirectory();
            }
        }

        /** A WAV file with a Broadcast Wave chunk put before its other chunks. */
        private Path broadcast(String name, long timeReference) throws Exception {
            byte[] plain = Files.readAllBytes(
                    Signals.wav(folder.resolve(name), 48_000, SampleEncoding.PCM_16, Signals.noise(0.1, 100, 1)));
            ByteBuffer bytes = ByteBuffer.allocate(plain.length + 610).order(ByteOrder.LITTLE_ENDIAN);
            bytes.put(plain, 0, 12)
                    .put("bext".getBytes(StandardCharsets.US_ASCII))
                    .putInt(602);
            bytes.putLong(bytes.position() + 338, timeReference);
            bytes.position(bytes.position() + 602);
            bytes.put(plain, 12, plain.length - 12);
            return Files.write(folder.resolve(name), bytes.array());
        }

        @Test
        void a_folder_that_holds_a_session_is_not_written_over() throws Exception {
            saved();
            assertThatExceptionOfType(SessionFileException.class)
                    .isThrownBy(
                            () -> NewSession.make(folder, List.of(folder), NewSession.Options.DEFAULT, Progress.NONE))
                    .withMessageContaining("already holds a session");
        }
    }
}
