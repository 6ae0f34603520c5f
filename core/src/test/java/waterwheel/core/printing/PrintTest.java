package waterwheel.core.printing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.FreezeLock;
import waterwheel.core.edit.Parking;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.errors.RenderException;
import waterwheel.core.freezing.FreezeRun;
import waterwheel.core.freezing.Freezes;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Limiter;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.rides.Rides;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.LinkGroup;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.testing.Renders;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.testing.StopsAt;
import waterwheel.core.work.Progress;

/** A print stands in for its source so that nobody hears it, or says what will be heard. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class PrintTest {
    private static final int FRAMES = 20_000;
    private static final ChannelId ONE = Sessions.id("one");
    private static final ChannelId TWO = Sessions.id("two");
    private static final ChannelId BUS = Sessions.id("bus");
    private static final ChannelId RETURN = Sessions.id("return");
    private static final ChannelId TAPPED = Sessions.id("tapped");
    private static final SlotId A = new SlotId("a");
    private static final SlotId B = new SlotId("b");

    @TempDir
    Path folder;

    @SuppressWarnings("NullAway.Init")
    private Session plain;

    /** A mono and a stereo track on a bus, a return, a track that takes the first one's signal, and a key. */
    @BeforeEach
    void a_small_session() throws Exception {
        Session built = new Sessions(folder)
                .track("one", "bus", Signals.noise(0.05, FRAMES, 1))
                .track("two", "bus", Signals.noise(0.05, FRAMES, 2), Signals.noise(0.05, FRAMES, 3))
                .track("tapped", "main", Signals.noise(0.05, FRAMES, 4))
                .bus("return", "main")
                .bus("bus", "main")
                .build();
        plain = built.withStrip(
                        ONE, s -> s.withInserts(List.of(Insert.of(A, Limiter.KIND), Insert.of(B, Compressor.KIND)))
                                .withTrimDb(3)
                                .withPolarityInverted(true))
                .withStrip(TWO, s -> s.withInserts(List.of(Insert.of(A, Equaliser.KIND)))
                        .withSends(List.of(Send.toBus(RETURN, -8), Send.toKey(ONE, B))))
                .withStrip(BUS, s -> s.withInserts(List.of(Insert.of(A, Compressor.KIND))));
    }

    private Session printed(Session session, PrintOrder... orders) throws Exception {
        return Printed.into(
                session, PrintRun.run(session, folder, List.of(orders), SampleEncoding.FLOAT_32, Progress.NONE));
    }

    private float[][] mix(Session session) {
        return new Renders(folder).mix(session);
    }

    private PrintOrder order(ChannelId id) {
        return PrintOrder.of(plain.channel(id));
    }

    @Test
    void a_track_is_replaced_by_its_print_and_parked_with_all_it_has() throws Exception {
        Session session = plain.withVcas(
                        List.of(new Vca(Sessions.id("v"), "All", -3, false, List.of(ONE, TWO), List.of())))
                .withLinks(List.of(LinkGroup.of(Sessions.id("l"), "Both", List.of(ONE, TWO))));
        Session after = printed(session, order(ONE));
        Track print = (Track) after.channel(ONE);
        assertThat(print.name()).isEqualTo("one print");
        assertThat(print.strip().inserts()).isEmpty();
        assertThat(print.strip().trimDb()).isZero();
        assertThat(print.strip().polarityInverted()).isFalse();
        assertThat(print.clips()).singleElement().satisfies(clip -> {
            assertThat(clip.startFrames()).isZero();
            assertThat(after.source(clip.source()).path()).isEqualTo("prints/one-1.wav");
            assertThat(after.source(clip.source()).frames()).isEqualTo(FRAMES);
        });
        assertThat(after.parked()).singleElement().satisfies(parked -> {
            assertThat(parked.channel()).isEqualTo(session.channel(ONE));
            assertThat(parked.along()).isEmpty();
        });
        // What keyed it is in the print; its own place in groups is the print's.
        assertThat(after.channel(TWO).strip().sends()).singleElement().satisfies(send -> assertThat(send.target())
                .isEqualTo(new Send.ToBus(RETURN)));
        assertThat(after.vcas()).isEqualTo(session.vcas());
        assertThat(Renders.differenceDb(mix(after), mix(session))).isLessThan(-120);
        // The file of what is parked is kept, through a save as well.
        Path home = Files.createDirectories(folder.resolve("saved"));
        SessionFolder.save(after, home);
        assertThat(SessionFolder.load(home).session()).isEqualTo(after);
        Session back = Parking.bringBack(after, after.parked().getFirst()).apply(after);
        assertThat(back.channels()).isEqualTo(session.channels());
        assertThat(back.parked()).singleElement().satisfies(parked -> assertThat(parked.channel())
                .isEqualTo(print));
        assertThat(mix(back)).isDeepEqualTo(mix(session));
        // And the print again, as it was.
        Session again = Parking.bringBack(back, back.parked().getFirst()).apply(back);
        assertThat(again.channels()).isEqualTo(after.channels());
    }

    @Test
    void a_bus_prints_what_feeds_it_as_one_and_what_is_heard_elsewhere_stays() throws Exception {
        assertThat(StandIn.of(plain, order(BUS)).changes()).isEmpty();
        Session after = printed(plain, order(BUS));
        assertThat(after.channel(BUS)).isInstanceOfSatisfying(Track.class, track -> {
            assertThat(track.planes()).isEqualTo(2);
            assertThat(track.strip().output()).isEqualTo(Output.to(Sessions.MAIN));
        });
        // The first track fed nothing else; the second one feeds a return.
        assertThat(after.find(ONE)).isEmpty();
        assertThat(after.channel(TWO).strip().output()).isEqualTo(new Output.Nowhere());
        assertThat(after.parked().getFirst().along())
                .extracting(along -> along.channel().id())
                .containsExactly(ONE);
        assertThat(Renders.differenceDb(mix(after), mix(plain))).isLessThan(-120);
        Path home = Files.createDirectories(folder.resolve("saved"));
        SessionFolder.save(after, home);
        assertThat(SessionFolder.load(home).session()).isEqualTo(after);
        Session back = Parking.bringBack(after, after.parked().getFirst()).apply(after);
        assertThat(back.channels()).containsExactlyElementsOf(plain.channels());
        assertThat(mix(back)).isDeepEqualTo(mix(plain));
    }

    @Test
    void a_bus_whose_track_is_printed_too_takes_the_print_along() throws Exception {
        Session after = printed(plain, order(ONE), order(BUS));
        assertThat(Renders.differenceDb(mix(after), mix(plain))).isLessThan(-120);
        assertThat(after.parked()).hasSize(2);
        Session back = Parking.bringBack(after, after.parked().get(1)).apply(after);
        assertThat(back.channel(ONE).name()).isEqualTo("one print");
        assertThat(Renders.differenceDb(mix(back), mix(plain))).isLessThan(-120);
    }

    /** Where it is said that nothing changes, nothing does; and nothing is said where nothing does. */
    @Test
    void random_prints_of_random_sessions_keep_the_mix_or_say_what_changes() throws Exception {
        Random random = new Random(5);
        int kept = 0;
        int changed = 0;
        for (int round = 0; round < 60; round++) {
            Session session = random(random);
            ChannelId id = List.of(ONE, TWO, BUS).get(random.nextInt(3));
            PrintOrder order = PrintOrder.of(session.channel(id))
                    .withUpto(List.of(Upto.values()).get(random.nextInt(4)))
                    .withSends(random.nextInt(6) > 0)
                    .withGroups(random.nextInt(6) > 0);
            if (order.upto() == Upto.SLOT && random.nextBoolean()) {
                order = order.withThrough(random.nextBoolean() ? Optional.of(A) : Optional.empty());
            }
            List<String> changes = StandIn.of(session, order).changes();
            Session after = printed(session, order);
            double difference = Renders.differenceDb(mix(after), mix(session));
            if (changes.isEmpty()) {
                kept++;
                assertThat(difference).as("round %s: %s", round, order).isLessThan(-120);
            } else {
                changed++;
            }
            Session back = Parking.bringBack(after, after.parked().getLast()).apply(after);
            assertThat(back.channels()).as("round %s", round).isEqualTo(session.channels());
            assertThat(mix(back)).as("round %s", round).isDeepEqualTo(mix(session));
            Session again = Parking.bringBack(back, back.parked().getLast()).apply(back);
            assertThat(mix(again)).as("round %s", round).isDeepEqualTo(mix(after));
        }
        assertThat(kept).isGreaterThan(20);
        assertThat(changed).isGreaterThan(8);
    }

    private Session random(Random random) {
        Session session = plain;
        for (ChannelId id : List.of(ONE, TWO, BUS)) {
            session = session.withStrip(id, strip -> strip(strip, random));
        }
        if (random.nextInt(3) == 0) {
            Tap.Point point = random.nextBoolean() ? Tap.Point.PRE_FADER : Tap.Point.POST_FADER;
            session = session.withChannel(TAPPED, c -> ((Track) c).withFeed(new Feed.Tapped(new Tap(ONE, point))));
        }
        if (random.nextBoolean()) {
            session = session.withVcas(List.of(new Vca(
                            Sessions.id("v"),
                            "All",
                            random.nextInt(7) - 3,
                            random.nextInt(6) == 0,
                            List.of(ONE, BUS),
                            List.of())
                    .withRides(random.nextInt(4) == 0 ? ride(Strip.FADER.key(), 2) : Rides.NONE)));
        }
        return session;
    }

    private static Rides ride(String key, double most) {
        return Rides.NONE.with(
                key,
                Ride.of(new Curve(List.of(
                        new CurvePoint(0, 0, CurvePoint.Shape.LINE),
                        new CurvePoint(FRAMES / 2, most, CurvePoint.Shape.LINE),
                        new CurvePoint(FRAMES, 0, CurvePoint.Shape.LINE)))));
    }

    private static Strip strip(Strip strip, Random random) {
        Strip out = strip.withFaderDb(random.nextInt(13) - 6)
                .withMuted(random.nextInt(8) == 0)
                .withPlacement(
                        random.nextBoolean()
                                ? Placement.CENTRE
                                : Placement.CENTRE.withPosition(random.nextDouble() * 2 - 1));
        switch (random.nextInt(6)) {
            case 0 -> out = out.withRides(ride(Strip.FADER.key(), 3));
            case 1 -> out = out.withRides(ride(Placement.POSITION.key(), 0.5));
            case 2 -> out = out.withRides(ride(Strip.TRIM.key(), 3));
            default -> {}
        }
        List<Send> sends = new ArrayList<>(strip.sends());
        for (int i = 0; i < random.nextInt(3); i++) {
            Send send = Send.toBus(RETURN, random.nextInt(9) - 8).withPreFader(random.nextBoolean());
            if (random.nextInt(3) == 0) {
                send = send.withPlacement(Optional.of(Placement.CENTRE.withPosition(-0.4)));
            }
            if (random.nextInt(4) == 0) {
                send = send.withRides(ride(Send.LEVEL.key(), 2));
            }
            sends.add(send);
        }
        return out.withSends(sends);
    }

    /** Freezes, prints, ways back and edits in any order: what should not be heard is not, and undo is exact. */
    @Test
    void random_sequences_with_frozen_printed_and_parked_channels_stay_true_and_undo_to_the_same_bits()
            throws Exception {
        Random random = new Random(21);
        for (int round = 0; round < 5; round++) {
            Session now = random(random);
            List<Session> states = new ArrayList<>(List.of(now));
            List<float[][]> mixes = new ArrayList<>();
            mixes.add(played(now));
            // What comes back is as it was: whatever was changed on its print meanwhile is heard.
            boolean touched = false;
            for (int step = 0; step < 7; step++) {
                boolean silent = random.nextInt(5) > 0;
                Session next = silent ? unheard(now, random, touched) : edited(now, random);
                touched |= !silent;
                float[][] mix = played(next);
                if (silent) {
                    assertThat(Renders.differenceDb(mix, mixes.getLast()))
                            .as("round %s step %s", round, step)
                            .isLessThan(-120);
                }
                // What is frozen is heard only where it is what would be computed.
                assertThat(Renders.differenceDb(mix, mix(FreezeLock.unfrozen(next, List.of(ONE, TWO, BUS)))))
                        .isLessThan(-120);
                states.add(next);
                mixes.add(mix);
                now = next;
            }
            for (int i = states.size() - 1; i >= 0; i--) {
                assertThat(played(states.get(i))).isDeepEqualTo(mixes.get(i));
            }
        }
    }

    /** Something that nobody should hear; the same session where that is not possible. */
    private Session unheard(Session session, Random random, boolean touched) throws Exception {
        if (!touched && !session.parked().isEmpty() && random.nextInt(3) == 0) {
            Session back =
                    Parking.bringBack(session, session.parked().getLast()).apply(session);
            return FreezeLock.broken(session, back).isEmpty() ? back : session;
        }
        List<ChannelId> there = Stream.of(ONE, TWO, BUS)
                .filter(id -> session.find(id).isPresent())
                .toList();
        Channel channel = session.channel(there.get(random.nextInt(there.size())));
        if (random.nextBoolean()) {
            return FreezeRun.Rendered.into(
                    session, FreezeRun.run(session, folder, List.of(FreezeRun.Wanted.last(channel)), Progress.NONE));
        }
        PrintOrder order =
                PrintOrder.of(channel).withUpto(List.of(Upto.values()).get(random.nextInt(4)));
        if (!StandIn.of(session, order).changes().isEmpty()) {
            return session;
        }
        Session after = printed(session, order);
        return FreezeLock.broken(session, after).isEmpty() ? after : session;
    }

    private static Session edited(Session session, Random random) {
        List<ChannelId> there = Stream.of(ONE, TWO, BUS, RETURN)
                .filter(id -> session.find(id).isPresent())
                .toList();
        ChannelId id = there.get(random.nextInt(there.size()));
        Session edited = random.nextBoolean()
                ? session.withStrip(id, s -> s.withFaderDb(random.nextInt(9) - 6))
                : session.withStrip(id, s -> s.withTrimDb(random.nextInt(5) - 2));
        return FreezeLock.broken(session, edited).isEmpty() ? edited : session;
    }

    /** The mix as it is played: with what is frozen. */
    private float[][] played(Session session) {
        try (Media media = Media.open(session, folder)) {
            Plan plan = PlanCompiler.compile(session, Freezes.playable(session, media));
            return new Renders(folder).signal(session, plan, plan.output());
        }
    }

    @Test
    void what_a_print_is_reset_to_and_what_goes_over() {
        Session session = plain.withStrip(ONE, s -> s.withFaderDb(-4)
                .withPlacement(Placement.CENTRE.withPosition(0.5))
                .withMuted(true)
                .withSends(List.of(Send.toBus(RETURN, -10).withPreFader(true))));
        Strip fader =
                StandIn.of(session, order(ONE).withUpto(Upto.FADER)).bare().strip();
        assertThat(fader.faderDb()).isZero();
        assertThat(fader.placement().position()).isEqualTo(0.5);
        assertThat(fader.muted()).isTrue();
        // Before a fader of -4 dB that is in the print now: as much louder.
        assertThat(fader.sends().getFirst().levelDb()).isEqualTo(-6);
        Track placed = StandIn.of(session, order(ONE).withUpto(Upto.PLACEMENT)).bare();
        assertThat(placed.planes()).isEqualTo(2);
        assertThat(placed.strip().placement()).isEqualTo(Placement.CENTRE);
        Strip mute = StandIn.of(session, order(ONE).withUpto(Upto.MUTE)).bare().strip();
        assertThat(mute.muted()).isFalse();
        Strip slot = StandIn.of(session, order(ONE).withThrough(Optional.of(A)))
                .bare()
                .strip();
        assertThat(slot.inserts()).extracting(Insert::id).containsExactly(B);
        assertThat(slot.faderDb()).isEqualTo(-4);
    }

    @Test
    void what_cannot_stay_the_same_is_said_before() {
        Session session = plain.withStrip(ONE, s -> s.withRides(ride(Strip.FADER.key(), 3))
                .withPlacement(Placement.CENTRE.withPosition(0.5))
                .withSends(List.of(
                        Send.toBus(RETURN, -10).withPreFader(true),
                        Send.toBus(RETURN, -10).withPlacement(Optional.of(Placement.CENTRE)))));
        assertThat(StandIn.of(session, order(ONE)).changes()).isEmpty();
        assertThat(StandIn.of(session, order(ONE).withUpto(Upto.PLACEMENT)).changes())
                .containsExactly(
                        "Its send to return is taken before the fader, which moves: it follows the fader now.",
                        "Its send to return has a position of its own, and gets the placed signal now.");
        assertThat(StandIn.of(session, order(ONE).withSends(false)).changes()).hasSize(2);
        assertThat(StandIn.of(session, order(ONE).withKeepSource(true)).changes())
                .containsExactly("It sounds beside its source: twice.");
        assertThat(StandIn.of(
                                session.withStrip(
                                        ONE, s -> s.withRides(Rides.NONE).withFaderDb(-40)),
                                order(ONE).withUpto(Upto.FADER))
                        .changes())
                .containsExactly("Its send to return would have to be turned up past +12 dB, and gets softer.");
    }

    @Test
    void beside_its_source_it_is_a_track_of_its_own() throws Exception {
        Session session = plain.withVcas(List.of(new Vca(Sessions.id("v"), "All", 0, false, List.of(ONE), List.of())));
        Session after = printed(session, order(ONE).withKeepSource(true));
        assertThat(after.parked()).isEmpty();
        Channel print = after.channels().get(1);
        assertThat(print.name()).isEqualTo("one print");
        assertThat(after.channel(ONE)).isEqualTo(session.channel(ONE));
        assertThat(after.vcas().getFirst().members()).containsExactly(ONE, print.id());
    }

    @Test
    void at_24_bits_nothing_clips_silently() throws Exception {
        Session loud = plain.withStrip(TWO, s -> s.withTrimDb(30));
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> PrintRun.run(loud, folder, List.of(order(TWO)), SampleEncoding.PCM_24, Progress.NONE))
                .withMessageContaining("At 24 bits this would clip: two (");
        assertThat(files()).isEmpty();
        assertThat(PrintRun.run(loud, folder, List.of(order(TWO)), SampleEncoding.FLOAT_32, Progress.NONE))
                .hasSize(1);
        Session after = Printed.into(
                plain, PrintRun.run(plain, folder, List.of(order(TWO)), SampleEncoding.PCM_24, Progress.NONE));
        assertThat(Renders.differenceDb(mix(after), mix(plain))).isLessThan(-118);
        assertThat(files()).containsExactlyInAnyOrder("two-1.wav", "two-2.wav");
    }

    @Test
    void stopped_it_leaves_no_file_and_the_main_bus_is_refused() {
        assertThatExceptionOfType(CancellationException.class)
                .isThrownBy(() ->
                        PrintRun.run(plain, folder, List.of(order(ONE)), SampleEncoding.FLOAT_32, new StopsAt(0)));
        assertThat(files()).isEmpty();
        assertThatExceptionOfType(RenderException.class)
                .isThrownBy(() -> PrintRun.run(
                        plain, folder, List.of(order(Sessions.MAIN)), SampleEncoding.FLOAT_32, Progress.NONE))
                .withMessageContaining("'Main' is the mix");
    }

    private List<String> files() {
        try (Stream<Path> all = Files.list(folder.resolve(PrintRun.FOLDER))) {
            return all.map(file -> String.valueOf(file.getFileName())).toList();
        } catch (IOException e) {
            return List.of();
        }
    }

    @Test
    void what_is_brought_back_leads_only_to_what_is_still_there() throws Exception {
        Session after = printed(plain, order(BUS));
        // Meanwhile the return goes, and somebody routes the second track elsewhere.
        Session without = FlowEdits.removeBus((Bus) after.channel(RETURN))
                .apply(after)
                .withStrip(TWO, s -> s.withOutput(Output.to(Sessions.MAIN)));
        Session back = Parking.bringBack(without, without.parked().getFirst()).apply(without);
        assertThat(back.channel(TWO).strip().output()).isEqualTo(Output.to(Sessions.MAIN));
        assertThat(back.channel(ONE).strip().output()).isEqualTo(Output.to(BUS));
        Session gone = Parking.letGo(back.parked().getFirst()).apply(back);
        assertThat(gone.parked()).isEmpty();
        assertThat(gone.channels()).isEqualTo(back.channels());
    }
}
