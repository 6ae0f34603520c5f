package waterwheel.core.findings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.path.Stage;
import waterwheel.core.processing.Convolution;
import waterwheel.core.processing.Delay;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.routing.Faders;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Vca;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** What is said of inserts, responses, balances and files that changed; and that nothing is said where all is well. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class FlowFindingsTest {
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId BUS = Sessions.id("bus");
    private static final ChannelId RETURN = Sessions.id("return");
    private static final SlotId SLOT = new SlotId("1");

    @TempDir
    Path folder;

    private Session session() throws Exception {
        return new Sessions(folder)
                .track("one", "bus", Signals.noise(0.2, 96_000, 1), Signals.noise(0.2, 96_000, 2))
                .bus("bus", "main")
                .bus("return", "main")
                .build();
    }

    private SessionLevels levels(Session session) {
        return SessionMeasurement.asShown(session, folder, Progress.NONE);
    }

    private List<Finding> of(Session session, Finding.Rule rule) {
        return Findings.of(levels(session)).stream()
                .filter(f -> f.rule() == rule)
                .toList();
    }

    private static Session inserted(Session session, Processor processor, double outputDb) {
        return session.withStrip(ONE, s -> s.withInserts(List.of(new Insert(SLOT, processor, false, 0, outputDb, 1))));
    }

    private Session withSource(Session session, String id, int frames, SampleEncoding encoding) {
        List<AudioSource> sources = new ArrayList<>(session.sources());
        sources.add(new AudioSource(new SourceId(id), id + ".wav", frames, 1, 48_000, encoding.label()));
        return session.withSources(sources);
    }

    @Nested
    class Responses {
        private final Processor convolution = Processor.usual(Convolution.KIND).withResponse(new SourceId("room"));

        @Test
        void a_convolution_without_a_response_gives_silence_and_can_be_bypassed() throws Exception {
            Session session = inserted(session(), Processor.usual(Convolution.KIND), 0);
            assertThat(of(session, Finding.Rule.NO_RESPONSE)).singleElement().satisfies(f -> {
                assertThat(f.channel()).isEqualTo(ONE);
                assertThat(f.sentence()).contains("gives silence", "it has no impulse response");
                Session mended = f.remedy().orElseThrow().apply(session);
                assertThat(mended.channel(ONE).strip().inserts().getFirst().bypassed())
                        .isTrue();
                assertThat(of(mended, Finding.Rule.NO_RESPONSE)).isEmpty();
            });
        }

        @Test
        void one_whose_file_is_missing_too() throws Exception {
            Session session = withSource(
                    inserted(session(), Processor.usual(Convolution.KIND), 0), "room", 10, SampleEncoding.FLOAT_32);
            Session lost = inserted(session, convolution, 0);
            assertThat(of(lost, Finding.Rule.NO_RESPONSE)).singleElement().satisfies(f -> assertThat(f.sentence())
                    .contains("the file of its impulse response is missing"));
        }

        @Test
        void one_that_is_there_is_no_finding_but_what_in_it_is_no_number_is() throws Exception {
            float[] room = Signals.noise(0.5, 400, 3);
            Path file = Signals.wav(folder.resolve("room.wav"), 48_000, SampleEncoding.FLOAT_32, room);
            Session session = inserted(withSource(session(), "room", 400, SampleEncoding.FLOAT_32), convolution, 0);
            assertThat(of(session, Finding.Rule.NO_RESPONSE)).isEmpty();
            assertThat(of(session, Finding.Rule.NOT_NUMBERS)).isEmpty();
            byte[] bytes = Files.readAllBytes(file);
            ByteBuffer.wrap(bytes)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putFloat(bytes.length - 40, Float.NaN)
                    .putFloat(bytes.length - 20, Float.NEGATIVE_INFINITY);
            Files.write(file, bytes);
            assertThat(of(session, Finding.Rule.NOT_NUMBERS)).singleElement().satisfies(f -> {
                assertThat(f.severity()).isEqualTo(Finding.Severity.LOSS);
                assertThat(f.sentence()).startsWith("2 samples in the impulse response of one");
            });
        }
    }

    @Nested
    class Balances {
        private Session sending(double busFaderDb) throws Exception {
            return session()
                    .withStrip(ONE, s -> s.withSends(List.of(Send.toBus(RETURN, -6))))
                    .withStrip(BUS, s -> s.withFaderDb(busFaderDb));
        }

        @Test
        void a_bus_fader_that_leaves_its_members_effects_behind_becomes_a_VCA() throws Exception {
            Session session = sending(-6);
            assertThat(of(session, Finding.Rule.WET_DRY_SHIFT)).singleElement().satisfies(f -> {
                assertThat(f.channel()).isEqualTo(BUS);
                assertThat(f.sentence()).contains("one sends to", "their balance has shifted");
                Session mended = f.remedy().orElseThrow().apply(session);
                assertThat(mended.channel(BUS).strip().faderDb()).isZero();
                assertThat(Faders.effectiveDb(mended, mended.channel(ONE))).isCloseTo(-6, within(1e-9));
                assertThat(of(mended, Finding.Rule.WET_DRY_SHIFT)).isEmpty();
            });
        }

        @Test
        void nothing_is_said_where_nothing_shifts() throws Exception {
            assertThat(of(sending(0), Finding.Rule.WET_DRY_SHIFT)).isEmpty();
            assertThat(of(sending(-0.5), Finding.Rule.WET_DRY_SHIFT))
                    .as("nobody hears")
                    .isEmpty();
            Session through = sending(-6).withStrip(RETURN, s -> s.withOutput(Output.to(BUS)));
            assertThat(of(through, Finding.Rule.WET_DRY_SHIFT))
                    .as("the return feeds the bus")
                    .isEmpty();
            Session off = sending(-6)
                    .withStrip(
                            ONE, s -> s.withSends(List.of(s.sends().getFirst().withOn(false))));
            assertThat(of(off, Finding.Rule.WET_DRY_SHIFT))
                    .as("the send is off")
                    .isEmpty();
        }
    }

    @Test
    void a_track_that_a_muted_VCA_mutes_is_told_of_with_the_VCA() throws Exception {
        Session session =
                session().withVcas(List.of(new Vca(Sessions.id("v"), "Voices", 0, true, List.of(BUS, ONE), List.of())));
        assertThat(of(session, Finding.Rule.MUTED_TRACK)).singleElement().satisfies(f -> {
            assertThat(f.sentence()).contains("one is muted by the VCA Voices");
            Session mended = f.remedy().orElseThrow().apply(session);
            assertThat(of(mended, Finding.Rule.MUTED_TRACK)).isEmpty();
            assertThat(levels(mended).main().orElseThrow().silent()).isFalse();
        });
        assertThat(levels(session).main().orElseThrow().silent()).isTrue();
    }

    @Nested
    class Inserts {
        private final Processor loud = Processor.usual(Equaliser.KIND)
                .with("lowShelfHz", 2_000)
                .with("lowShelfDb", 9)
                .with("highShelfHz", 500)
                .with("highShelfDb", 9);

        @Test
        void one_that_makes_louder_is_matched_by_its_remedy() throws Exception {
            Session session = inserted(session(), loud, 0);
            assertThat(of(session, Finding.Rule.UNMATCHED_INSERT))
                    .singleElement()
                    .satisfies(f -> {
                        assertThat(f.sentence()).contains("equaliser on one makes it", "LU louder");
                        Session mended = f.remedy().orElseThrow().apply(session);
                        SessionLevels after = levels(mended);
                        double change = after.of(ONE)
                                        .orElseThrow()
                                        .after(SLOT)
                                        .orElseThrow()
                                        .integratedLufs()
                                - after.of(ONE).orElseThrow().at(Stage.TRIM).integratedLufs();
                        assertThat(change).isCloseTo(0, within(0.1));
                        assertThat(of(mended, Finding.Rule.UNMATCHED_INSERT)).isEmpty();
                    });
            assertThat(of(inserted(session(), loud, -9), Finding.Rule.UNMATCHED_INSERT))
                    .isEmpty();
        }

        @Test
        void one_that_makes_softer_is_too_and_one_that_adds_an_effect_is_not() throws Exception {
            Processor soft = loud.with("lowShelfDb", -9).with("highShelfDb", -9);
            assertThat(of(inserted(session(), soft, 0), Finding.Rule.UNMATCHED_INSERT))
                    .singleElement()
                    .satisfies(f -> assertThat(f.sentence()).contains("LU softer"));
            Session echo = inserted(session(), Processor.usual(Delay.KIND), 9);
            assertThat(of(echo, Finding.Rule.UNMATCHED_INSERT)).isEmpty();
        }
    }

    @Nested
    class Sources {
        @Test
        void a_mean_off_the_zero_line_is_a_note_and_one_on_it_is_none() throws Exception {
            float[] off = Signals.sine(500, -12, 48_000, 1);
            for (int i = 0; i < off.length; i++) {
                off[i] += 0.02f;
            }
            Session session = new Sessions(folder).track("one", "main", off).build();
            assertThat(of(session, Finding.Rule.DC_OFFSET)).singleElement().satisfies(f -> {
                assertThat(f.severity()).isEqualTo(Finding.Severity.NOTE);
                assertThat(f.sentence()).contains("2.0 % of full scale");
            });
            assertThat(of(session(), Finding.Rule.DC_OFFSET)).isEmpty();
        }

        @Test
        void a_file_that_holds_other_audio_is_told_of_until_it_is_taken_as_it_is() throws Exception {
            Session session = session();
            Path file = folder.resolve("one.wav");
            AudioSource source = session.sources().getFirst();
            Session known = session.withSources(List.of(source.withContent(
                    ContentHash.of(file), Files.getLastModifiedTime(file).toMillis())));
            assertThat(of(known, Finding.Rule.CHANGED_FILE)).isEmpty();
            Signals.wav(
                    file,
                    48_000,
                    SampleEncoding.FLOAT_32,
                    Signals.noise(0.2, 96_000, 8),
                    Signals.noise(0.2, 96_000, 9));
            Files.setLastModifiedTime(file, FileTime.fromMillis(1_700_000_000_000L));
            assertThat(of(known, Finding.Rule.CHANGED_FILE)).singleElement().satisfies(f -> {
                assertThat(f.severity()).isEqualTo(Finding.Severity.RISK);
                Session taken = f.remedy().orElseThrow().apply(known);
                assertThat(of(taken, Finding.Rule.CHANGED_FILE)).isEmpty();
            });
            // Whose content was never looked at cannot be told from what it is now.
            assertThat(of(session, Finding.Rule.CHANGED_FILE)).isEmpty();
        }

        @Test
        void a_file_at_another_rate_than_the_session_is_silent_and_told_of() throws Exception {
            Session session = session();
            Session slower = new Session(
                    session.title(),
                    44_100,
                    session.panLaw(),
                    session.nominalDbfs(),
                    session.sources(),
                    session.channels(),
                    session.mainId(),
                    session.sections());
            assertThat(of(slower, Finding.Rule.MISSING_FILE)).singleElement().satisfies(f -> assertThat(f.sentence())
                    .contains("runs at 48000 Hz, but the session at 44100 Hz"));
            assertThat(levels(slower).main().orElseThrow().silent()).isTrue();
        }

        @Test
        void a_lattice_of_extra_outputs_is_counted_and_not_walked() throws Exception {
            Sessions made = new Sessions(folder).track("one", "b0", Signals.noise(0.001, 4_800, 1));
            int levels = 40;
            for (int i = 0; i < levels; i++) {
                made.bus("b" + i, i + 1 < levels ? "b" + (i + 1) : "main");
            }
            Session session = made.build();
            for (int i = 0; i < levels; i++) {
                ChannelId further = i + 2 < levels ? Sessions.id("b" + (i + 2)) : Sessions.MAIN;
                session = session.withStrip(Sessions.id("b" + i), s -> s.withExtraOutputs(List.of(further)));
            }
            Optional<Finding> deepest = of(session, Finding.Rule.DOUBLE_PATH).stream()
                    .filter(f -> f.channel().equals(Sessions.id("b0")))
                    .findFirst();
            assertThat(deepest).isPresent();
            assertThat(deepest.get().sentence()).contains("paths at unity");
            double gain = Double.parseDouble(deepest.get().sentence().replaceAll(".*is ([0-9.]+) dB louder.*", "$1"));
            // The last bus has two ways, to the main bus as output and extra output; each before it those of the next
            // two together, the last but one that of the next and one to the main bus itself.
            double next = 2;
            double ways = 3;
            for (int i = levels - 3; i >= 0; i--) {
                double sum = ways + next;
                next = ways;
                ways = sum;
            }
            assertThat(gain).isCloseTo(20 * Math.log10(ways), within(0.06));
        }
    }
}
