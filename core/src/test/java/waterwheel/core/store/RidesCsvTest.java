package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SplittableRandom;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.session.Vca;
import waterwheel.core.testing.Sessions;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class RidesCsvTest {
    private static final String HEADER = "channel,parameter,reach,layer,suspended,time,value,unit,shape\n";
    private static final List<CurvePoint.Shape> SHAPES = List.of(CurvePoint.Shape.values());

    @TempDir
    Path folder;

    private Session session;

    @BeforeEach
    void one_track_with_a_send_an_insert_and_a_VCA() throws Exception {
        session = new Sessions(folder)
                .track("one", "main", new float[100])
                .bus("hall", "main")
                .build()
                .withStrip(Sessions.id("one"), s -> s.withSends(List.of(
                                Send.toBus(Sessions.id("hall"), -6).withPlacement(Optional.of(Placement.CENTRE))))
                        .withInserts(List.of(Insert.of(new SlotId("eq"), Equaliser.KIND))))
                .withVcas(List.of(
                        new Vca(Sessions.id("v"), "All, \"loud\"", 0, false, List.of(Sessions.id("one")), List.of())));
    }

    private static Curve random(SplittableRandom random, Control control) {
        return random(random, control.least(), control.most());
    }

    private static Curve random(SplittableRandom random, double least, double most) {
        List<CurvePoint> points = new ArrayList<>();
        long frame = random.nextInt(3);
        for (int i = 0; i < 1 + random.nextInt(5); i++) {
            double value = least + random.nextDouble() * (most - least);
            points.add(new CurvePoint(frame, value, SHAPES.get(random.nextInt(3))));
            frame += 1 + random.nextLong(1L << random.nextInt(1, 34));
        }
        return new Curve(points);
    }

    private Session ridden(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        Session out = session;
        for (String owner : List.of("one", "hall", "v")) {
            for (ControlId id : Controls.of(session, Sessions.id(owner))) {
                if (random.nextInt(3) > 0) {
                    Control control = Controls.control(session, id);
                    Ride ride = Ride.of(random(random, control)).withSuspended(random.nextBoolean());
                    out = Controls.with(
                            out,
                            id,
                            switch (random.nextInt(3)) {
                                case 0 -> ride;
                                case 1 -> ride.withOffset(random.nextDouble() * 10 + 1);
                                default ->
                                    ride.withOffsetCurve(random(random, control)
                                            .with(new CurvePoint(0, 0.25, CurvePoint.Shape.LINE))
                                            .with(new CurvePoint(1, 0.5, CurvePoint.Shape.LINE)));
                            });
                }
            }
        }
        Track track = (Track) out.channel(Sessions.id("one"));
        Session ridden = out;
        return ClipEdits.ride(track, 0, new ClipRide(new ControlId.OfStrip(), "position", random(random, -1, 1)))
                .apply(ClipEdits.ride(
                                track,
                                0,
                                new ClipRide(
                                        new ControlId.OfInsert(new SlotId("eq")), "bell1Hz", random(random, -3, 3)))
                        .apply(ridden));
    }

    @Test
    void what_is_written_comes_back_exactly() throws Exception {
        for (long seed = 0; seed < 40; seed++) {
            Session before = ridden(seed);
            Path file = folder.resolve("rides.csv");
            RidesCsv.write(before, folder, file, false);
            assertThat(RidesCsvFile.read(session, file).apply(session)).isEqualTo(before);
        }
    }

    /** And so does a session's file, which keeps constant and moving offsets apart. */
    @Test
    void a_session_file_keeps_every_ride() throws Exception {
        for (long seed = 0; seed < 10; seed++) {
            Session before = ridden(seed);
            Path there = Files.createDirectories(folder.resolve("s" + seed));
            SessionFolder.save(before, there);
            assertThat(SessionFolder.load(there).session()).isEqualTo(before);
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "nobody,faderDb,song,written,false,0,0,dB,line | 'nobody'",
                "one,colour,song,written,false,0,0,dB,line | 'colour'",
                "one,faderDb,song,written,false,0,13,dB,line | -90 to 12",
                "one,faderDb,song,written,false,now,0,dB,line | 'now'",
                "one,faderDb,song,written,false,-1,0,dB,line | frame",
                "one,faderDb,song,written,false,0,1e999999999,dB,line | 1e999999999",
                "one,faderDb,song,written,false,0,0,dB,wavy | 'wavy'",
                "one,faderDb,elsewhere,written,false,0,0,dB,line | 'elsewhere'",
                "one,faderDb,song,painted,false,0,0,dB,line | 'painted'",
                "one,faderDb,clip 2,offset,false,0,0,dB,line | 'clip 2'",
                "one,faderDb,clip 1,written,false,0,0,dB,line | 'written'",
                "v,faderDb,clip 1,offset,false,0,0,dB,line | 'clip 1'",
                "one,faderDb,song | 3 values",
            })
    void a_row_that_cannot_be_is_named_with_what_is_wrong(String row, String told) throws Exception {
        Path file = folder.resolve("bad.csv");
        Files.writeString(file, HEADER + "one,trimDb,song,written,false,0,0,dB,line\n" + row + "\n");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> RidesCsvFile.read(session, file))
                .withMessageContaining("Line 3")
                .withMessageContaining(told);
    }

    @Test
    void what_holds_no_rides_is_not_replaced_and_the_sessions_own_never() throws Exception {
        Path notes = Files.writeString(folder.resolve("notes.csv"), "my,notes\n");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> RidesCsv.write(session, folder, notes, false))
                .withMessageContaining("--overwrite");
        RidesCsv.write(session, folder, notes, true);
        assertThat(notes).hasContent(HEADER.strip());
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> RidesCsv.write(session, folder, folder.resolve("one.wav"), true))
                .withMessageContaining("own files");
    }
}
