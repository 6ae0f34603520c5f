package waterwheel.core.store;

import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.BufferedReader;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.work.AsideFile;

/**
 * Writes rides as comma-separated values, a row a point: whose, which control, what it reaches, whether it is written or an
 * offset, whether it is suspended, when in seconds, the value with its unit, and how it goes on.
 */
public final class RidesCsv {
    static final List<String> COLUMNS =
            List.of("channel", "parameter", "reach", "layer", "suspended", "time", "value", "unit", "shape");
    static final String SONG = "song";
    /** A clip of the track, by its number from 1; its times count from its start. */
    static final String CLIP = "clip ";

    static final String WRITTEN = "written";
    static final String OFFSET = "offset";
    /** Nanoseconds: far below half a frame at any rate. */
    private static final int TIME_DIGITS = 9;

    private RidesCsv() {}

    /** All rides of a session. */
    public static String text(Session session) throws SessionFileException {
        List<List<String>> rows = new ArrayList<>();
        rows.add(COLUMNS);
        for (ControlId id : Controls.ridden(session)) {
            Ride ride = Controls.ride(session, id).orElseThrow();
            add(rows, session, id, SONG, WRITTEN, ride.suspended(), ride.curve());
            if (ride.offset() != 0 || !ride.offsetCurve().isNone()) {
                Curve still = new Curve(List.of(new CurvePoint(0, ride.offset(), CurvePoint.Shape.HOLD)));
                Curve whole = ride.offset() == 0
                        ? ride.offsetCurve()
                        : ride.offsetCurve().isNone()
                                ? still
                                : ride.offsetCurve().mapped(value -> value + ride.offset());
                add(rows, session, id, SONG, OFFSET, ride.suspended(), whole);
            }
        }
        for (ClipRides.OfClip one : ClipRides.all(session)) {
            add(rows, session, one.control(), CLIP + (one.clip() + 1), OFFSET, false, one.offset());
        }
        try {
            return new CsvMapper().writer(CsvSchema.emptySchema()).writeValueAsString(rows);
        } catch (IOException e) {
            throw new SessionFileException("The rides cannot be written.", "Try again.", e);
        }
    }

    private static void add(
            List<List<String>> rows,
            Session session,
            ControlId id,
            String reach,
            String layer,
            boolean suspended,
            Curve curve) {
        String unit = Controls.control(session, id).unit();
        for (CurvePoint point : curve.points()) {
            rows.add(List.of(
                    id.owner().value(),
                    id.path(),
                    reach,
                    layer,
                    String.valueOf(suspended),
                    seconds(point.frame(), session.sampleRateHz()),
                    number(point.value()),
                    unit,
                    point.shape().label()));
        }
    }

    private static String seconds(long frame, int rate) {
        BigDecimal exact =
                BigDecimal.valueOf(frame).divide(BigDecimal.valueOf(rate), TIME_DIGITS, RoundingMode.HALF_UP);
        return plain(exact);
    }

    static String number(double value) {
        return plain(new BigDecimal(Double.toString(value)));
    }

    private static String plain(BigDecimal value) {
        return value.signum() == 0 ? "0" : value.stripTrailingZeros().toPlainString();
    }

    /**
     * Writes all rides of a session to a file.
     *
     * @param folder the session's
     * @param overwrite whether a file that does not hold rides may be replaced
     * @throws SessionFileException if it cannot be written, or may not be replaced
     */
    public static void write(Session session, Path folder, Path file, boolean overwrite) throws SessionFileException {
        checkPlace(session, folder, file, overwrite);
        String text = text(session);
        try {
            AsideFile.write(file, path -> Files.writeString(path, text, StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new SessionFileException(
                    "The file '" + file + "' cannot be written.",
                    "Choose another folder, or make room on the disk.",
                    e);
        }
    }

    private static void checkPlace(Session session, Path folder, Path file, boolean overwrite)
            throws SessionFileException {
        if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        boolean plain = Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS);
        boolean own = SessionFolder.OWN_FILES.stream().anyMatch(name -> same(folder.resolve(name), file))
                || session.sources().stream().anyMatch(source -> same(folder.resolve(source.path()), file));
        if (!plain || own) {
            throw new SessionFileException(
                    "'" + file + "' is " + (plain ? "one of the session's own files" : "not a plain file") + ".",
                    "Choose another name.");
        }
        if (!overwrite && !holdsRides(file)) {
            throw new SessionFileException(
                    "There is a file '" + file + "' already, which does not hold rides.",
                    "Choose another name, or say --overwrite.");
        }
    }

    private static boolean same(Path one, Path other) {
        try {
            return Files.isSameFile(one, other);
        } catch (IOException e) {
            return false;
        }
    }

    private static boolean holdsRides(Path file) {
        try (BufferedReader reader = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            char[] begin = new char[String.join(",", COLUMNS).length()];
            return reader.read(begin) == begin.length && new String(begin).equals(String.join(",", COLUMNS));
        } catch (IOException e) {
            return false;
        }
    }
}
