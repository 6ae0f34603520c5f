package waterwheel.core.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.edit.Parking;
import waterwheel.core.engine.Media;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.findings.Finding;
import waterwheel.core.findings.Findings;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.levels.SessionMeasurement;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.printing.PrintOrder;
import waterwheel.core.printing.PrintRun;
import waterwheel.core.printing.Printed;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/** An instrument with several outputs in a session: taken in, played, measured, frozen, printed, handed on. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class InstrumentImportTest {
    private static final int RATE = 48_000;

    @TempDir
    Path folder;

    private Path home() throws Exception {
        return Files.createDirectories(folder.resolve("song"));
    }

    private Path map() throws Exception {
        Path kit = Files.createDirectories(folder.resolve("kit"));
        Signals.wav(kit.resolve("heel.wav"), RATE, SampleEncoding.FLOAT_32, Signals.noise(0.2, 3_000, 1));
        // At another rate: it is converted, and its loop with it.
        Signals.wav(kit.resolve("toe.wav"), 24_000, SampleEncoding.FLOAT_32, Signals.noise(0.2, 3_000, 2));
        Path file = kit.resolve("steps.sfz");
        Files.write(
                file,
                List.of(
                        "<region> sample=heel.wav key=36 loop_mode=one_shot",
                        "<region> sample=toe.wav key=38 output=1 loop_mode=loop_continuous loop_start=100 loop_end=199",
                        "<region> sample=gone.wav key=40 output=2"));
        return file;
    }

    private static Notes notes() {
        return Notes.none(RATE)
                .withNotes(List.of(
                        new Note(0, 2_000, 36, 100),
                        new Note(10_000, 6_000, 38, 90),
                        new Note(12_345, 100, 36, 127),
                        new Note(20_000, 4_000, 40, 127)));
    }

    private Session session() throws Exception {
        Session empty = new Sessions(home()).build();
        InstrumentImport taken = InstrumentImport.take(empty, home(), map(), Progress.NONE);
        assertThat(taken.told()).singleElement().asString().startsWith("The sample gone.wav is missing: ");
        assertThat(taken.instrument().regions().get(1).loopStart()).isEqualTo(200);
        assertThat(taken.instrument().regions().get(1).loopEnd()).isEqualTo(400);
        return NoteEdits.addInstrument("Steps", taken.instrument(), notes(), taken.sources())
                .apply(empty);
    }

    private float[][] mix(Session session) throws Exception {
        return new Renders(home()).mix(session);
    }

    @Test
    void each_output_feeds_a_track_of_its_own_on_a_bus_and_it_sounds_measures_and_is_saved() throws Exception {
        Session session = session();
        assertThat(session.tracks()).extracting(Track::name).containsExactly("Steps 1", "Steps 2");
        assertThat(session.buses()).hasSize(2);
        assertThat(session.lengthFrames()).isEqualTo(24_000);
        float[][] mix = mix(session);
        assertThat(mix[0][0]).isNotZero();
        assertThat(mix[0][9_999]).isZero();
        assertThat(mix[0][10_000]).isNotZero();
        SessionLevels levels = SessionMeasurement.of(session, home(), Progress.NONE);
        assertThat(session.tracks()).allSatisfy(track -> assertThat(
                        levels.asked(track.id()).orElseThrow().first().samplePeakDbfs())
                .isGreaterThan(-40));
        SessionFolder.save(session, home());
        Session loaded = SessionFolder.load(home()).session();
        assertThat(loaded).isEqualTo(session);
        assertThat(mix(loaded)).isDeepEqualTo(mix);
    }

    @Test
    void a_sample_that_goes_missing_is_a_finding_and_plays_as_silence() throws Exception {
        Session session = session();
        assertThat(Findings.of(SessionMeasurement.of(session, home(), Progress.NONE)))
                .extracting(Finding::rule)
                .doesNotContain(Finding.Rule.EMPTY_TRACK, Finding.Rule.MISSING_FILE);
        Files.delete(home().resolve(session.sources().getFirst().path()));
        assertThat(Findings.of(SessionMeasurement.of(session, home(), Progress.NONE)))
                .filteredOn(finding -> finding.rule() == Finding.Rule.MISSING_FILE)
                .singleElement()
                .satisfies(
                        finding -> assertThat(finding.sentence()).startsWith("Steps 1 misses its sample heel.wav: "));
        assertThat(mix(session)[0][0]).isZero();
    }

    @Test
    void outputs_whose_instrument_is_gone_are_a_finding_and_those_of_a_parked_one_are_not() throws Exception {
        Session session = session();
        Track player = session.tracks().getFirst();
        ChannelId other = session.tracks().getLast().id();
        Session parked = Parking.replaced(session, player.withClips(List.of()));
        assertThat(rules(parked, other)).isEmpty();
        Session gone = Parking.letGo(parked.parked().getFirst()).apply(parked);
        assertThat(rules(gone, other)).containsExactly(Finding.Rule.PLAYER_GONE);
    }

    private List<Finding.Rule> rules(Session session, ChannelId of) throws Exception {
        return Findings.of(SessionMeasurement.of(session, home(), Progress.NONE)).stream()
                .filter(finding -> finding.channel().equals(of))
                .map(Finding::rule)
                .toList();
    }

    @Test
    void it_is_frozen_and_stale_when_a_note_moves() throws Exception {
        Session session = session();
        List<FreezeRun.Wanted> wanted = session.tracks().stream()
                .map(track -> new FreezeRun.Wanted(track.id(), Optional.empty()))
                .toList();
        Session frozen = FreezeRun.Rendered.into(session, FreezeRun.run(session, home(), wanted, Progress.NONE));
        try (Media media = Media.open(frozen, home())) {
            assertThat(Freezes.of(frozen, media)).allMatch(one -> one.state() == Freezes.State.FRESH);
            Track first = frozen.tracks().getFirst();
            Session moved = NoteEdits.move(first, Set.of(0), 7).apply(frozen);
            assertThat(Freezes.of(moved, media)).anyMatch(one -> one.state() == Freezes.State.STALE);
            assertThat(FreezeLock.broken(frozen, moved)).isPresent();
        }
    }

    @Test
    void all_outputs_print_in_one_run_and_one_that_is_not_printed_sounds_on() throws Exception {
        Session session = session();
        float[][] before = mix(session);
        List<PrintOrder> orders = session.tracks().stream().map(PrintOrder::of).toList();
        Session both =
                Printed.into(session, PrintRun.run(session, home(), orders, SampleEncoding.FLOAT_32, Progress.NONE));
        assertThat(mix(both)).isDeepEqualTo(before);
        assertThat(both.parked()).hasSize(2);
        // Only the track that plays it: the other output is still played, by what is parked.
        Session one = Printed.into(
                session, PrintRun.run(session, home(), orders.subList(0, 1), SampleEncoding.FLOAT_32, Progress.NONE));
        assertThat(one.tracks().get(1).feed()).isInstanceOf(Feed.Output.class);
        assertThat(mix(one)).isDeepEqualTo(before);
        SessionFolder.save(one, home());
        assertThat(SessionFolder.load(home()).session()).isEqualTo(one);
        Session back = Parking.bringBack(one, one.parked().getFirst()).apply(one);
        assertThat(back.channels()).isEqualTo(session.channels());
    }

    @Test
    void notes_are_moved_transposed_made_softer_and_aligned() throws Exception {
        Session session = session();
        Track track = session.tracks().getFirst();
        Set<Integer> second = Set.of(1);
        assertThat(played(NoteEdits.move(track, second, -20_000).apply(session)).get(0))
                .isEqualTo(new Note(0, 2_000, 36, 100));
        assertThat(played(NoteEdits.transpose(track, second, 12).apply(session))
                        .get(1)
                        .key())
                .isEqualTo(50);
        assertThat(played(NoteEdits.transpose(track, second, 100).apply(session))
                        .get(1)
                        .key())
                .isEqualTo(38);
        assertThat(played(NoteEdits.scaleVelocity(track, second, 0.5).apply(session))
                        .get(1)
                        .velocity())
                .isEqualTo(45);
        assertThat(played(NoteEdits.scaleVelocity(track, second, 9).apply(session))
                        .get(1)
                        .velocity())
                .isEqualTo(127);
        // 120 beats a minute: half a beat is 12,000 frames.
        assertThat(played(NoteEdits.align(track, Set.of(0, 1, 2, 3), 0.5).apply(session)))
                .extracting(Note::startFrames)
                .containsExactly(0L, 12_000L, 12_000L, 24_000L);
        Session struck =
                NoteEdits.instrument(track, Instrument.Synth.STRUCK, List.of()).apply(session);
        assertThat(mix(struck)[0]).isNotEqualTo(mix(session)[0]);
    }

    private static List<Note> played(Session session) {
        return session.tracks().getFirst().played().orElseThrow().notes().notes();
    }

    @Test
    void a_map_without_a_sample_that_is_there_is_refused() throws Exception {
        Path file = folder.resolve("empty.sfz");
        Files.write(file, List.of("<region> sample=nowhere.wav"));
        Session empty = new Sessions(home()).build();
        assertThatExceptionOfType(NotesFileException.class)
                .isThrownBy(() -> InstrumentImport.take(empty, home(), file, Progress.NONE))
                .withMessageContaining("empty.sfz names no sample that can be played.");
    }
}
