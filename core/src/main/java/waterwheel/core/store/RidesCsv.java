package waterwheel.core.store;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
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
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.units.PlainText;
import waterwheel.core.work.AsideFile;

/**
 * Rides as comma-separated values, a row a point: whose, which control, what it reaches, whether it is written or an
 * offset, whether it is suspended, when in seconds, the value with its unit, and how it goes on.
 */
public final class RidesCsv {
    private static final List<String> COLUMNS =
            List.of("channel", "parameter", "reach", "layer", "suspended", "time", "value", "unit", "shape");
    private static final String SONG = "song";
    private static final String WRITTEN = "written";
    private static final String OFFSET = "offset";
    /** Nanoseconds: far below half a frame at any rate. */
    private static final int TIME_DIGITS = 9;

    private RidesCsv() {}

    /** All rides of a session. */
    public static String text(Session session) throws SessionFileException {
        List<List<String>> rows = new ArrayList<>();
        rows.add(COLUMNS);
        for (ControlId id : Controls.ridden(session)) {
            Ride ride = Controls.ride(session, id).orElseThrow();
            add(rows, session, id, WRITTEN, ride, ride.curve());
            if (ride.offset() != 0 || !ride.offsetCurve().isNone()) {
                Curve still = new Curve(List.of(new CurvePoint(0, ride.offset(), CurvePoint.Shape.HOLD)));
                Curve whole = ride.offset() == 0
                        ? ride.offsetCurve()
                        : ride.offsetCurve().isNone()
                                ? still
                                : new Curve(ride.offsetCurve().points().stream()
                                        .map(p -> new CurvePoint(p.frame(), p.value() + ride.offset(), p.shape()))
                                        .toList());
                add(rows, session, id, OFFSET, ride, whole);
            }
        }
        try {
            return new CsvMapper().writer(CsvSchema.emptySchema()).writeValueAsString(rows);
        } catch (IOException e) {
            throw new SessionFileException("The rides cannot be written.", "Try again.", e);
        }
    }

    private static void add(
            List<List<String>> rows, Session session, ControlId id, String layer, Ride ride, Curve curve) {
        String unit = Controls.control(session, id).unit();
        for (CurvePoint point : curve.points()) {
            rows.add(List.of(
                    id.owner().value(),
                    id.path(),
                    SONG,
                    layer,
                    String.valueOf(ride.suspended()),
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

    private static String number(double value) {
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

    /**
     * Reads rides from a file.
     *
     * @return by control; what a session becomes with them has these in place of its own
     * @throws SessionFileException if a row cannot be: it names the row and what is expected
     */
    public static Map<ControlId, Ride> read(Session session, Path file) throws SessionFileException {
        List<String[]> rows = rows(file);
        if (rows.isEmpty() || !Arrays.asList(rows.getFirst()).equals(COLUMNS)) {
            throw new SessionFileException(
                    "The file '" + file + "' does not begin with the columns of rides.",
                    "Its first line must be " + String.join(",", COLUMNS) + ".");
        }
        Map<ControlId, List<CurvePoint>> written = new LinkedHashMap<>();
        Map<ControlId, List<CurvePoint>> offsets = new LinkedHashMap<>();
        Map<ControlId, Boolean> suspended = new LinkedHashMap<>();
        for (int i = 1; i < rows.size(); i++) {
            try {
                read(session, rows.get(i), written, offsets, suspended);
            } catch (IllegalArgumentException e) {
                throw new SessionFileException(
                        "Line " + (i + 1) + " of '" + file.getFileName() + "' cannot be: " + e.getMessage() + ".",
                        "Correct it; nothing was changed.");
            }
        }
        Map<ControlId, Ride> rides = new LinkedHashMap<>();
        for (Map.Entry<ControlId, List<CurvePoint>> one : written.entrySet()) {
            try {
                rides.put(
                        one.getKey(),
                        ride(
                                one.getValue(),
                                offsets.getOrDefault(one.getKey(), List.of()),
                                suspended.getOrDefault(one.getKey(), false)));
            } catch (IllegalArgumentException e) {
                throw new SessionFileException(
                        "The ride '" + one.getKey().path() + "' of '"
                                + one.getKey().owner() + "' cannot be: " + e.getMessage() + ".",
                        "Give each point a later time than the one before.");
            }
        }
        for (ControlId id : offsets.keySet()) {
            if (!written.containsKey(id)) {
                throw new SessionFileException(
                        "The ride '" + id.path() + "' of '" + id.owner() + "' has an offset and nothing written.",
                        "Add a row of the layer written.");
            }
        }
        return rides;
    }

    private static Ride ride(List<CurvePoint> written, List<CurvePoint> offsets, boolean suspended) {
        boolean still = offsets.size() == 1;
        return new Ride(
                new Curve(written),
                still ? offsets.getFirst().value() : 0,
                still ? Curve.NONE : new Curve(offsets),
                suspended);
    }

    private static List<String[]> rows(Path file) throws SessionFileException {
        try (MappingIterator<String[]> all = new CsvMapper()
                .readerFor(String[].class)
                .with(CsvParser.Feature.WRAP_AS_ARRAY)
                .with(CsvParser.Feature.SKIP_EMPTY_LINES)
                .readValues(Files.readString(file, StandardCharsets.UTF_8))) {
            return all.readAll();
        } catch (IOException | RuntimeException e) {
            throw new SessionFileException(
                    "The file '" + file + "' cannot be read as comma-separated values.",
                    "Choose a file that holds rides.",
                    e);
        }
    }

    private static void read(
            Session session,
            String[] row,
            Map<ControlId, List<CurvePoint>> written,
            Map<ControlId, List<CurvePoint>> offsets,
            Map<ControlId, Boolean> suspended) {
        if (row.length != COLUMNS.size()) {
            throw new IllegalArgumentException(row.length + " values (expected: " + COLUMNS.size() + ")");
        }
        ControlId id = id(session, row[0], row[1]);
        Control control = Controls.control(session, id);
        if (!row[2].equals(SONG)) {
            throw new IllegalArgumentException("reach: " + told(row[2]) + " (expected: " + SONG + ")");
        }
        boolean offset = row[3].equals(OFFSET);
        if (!offset && !row[3].equals(WRITTEN)) {
            throw new IllegalArgumentException(
                    "layer: " + told(row[3]) + " (expected: " + WRITTEN + " or " + OFFSET + ")");
        }
        double value = decimal("value", row[6]).doubleValue();
        if (!offset && control.limited(value) != value) {
            throw new IllegalArgumentException("value: " + told(row[6]) + " (expected: " + number(control.least())
                    + " to " + number(control.most()) + ")");
        }
        CurvePoint.Shape shape = Arrays.stream(CurvePoint.Shape.values())
                .filter(one -> one.label().equals(row[8]))
                .findFirst()
                .orElseThrow(() ->
                        new IllegalArgumentException("shape: " + told(row[8]) + " (expected: hold, line or smooth)"));
        long frame = decimal("time", row[5])
                .multiply(BigDecimal.valueOf(session.sampleRateHz()))
                .setScale(0, RoundingMode.HALF_UP)
                .longValueExact();
        (offset ? offsets : written)
                .computeIfAbsent(id, any -> new ArrayList<>())
                .add(new CurvePoint(frame, value, shape));
        suspended.put(id, Boolean.parseBoolean(row[4]));
    }

    private static BigDecimal decimal(String name, String text) {
        try {
            BigDecimal value = new BigDecimal(text.strip());
            if (Math.abs(value.scale()) > 400 || value.precision() > 400) {
                throw new NumberFormatException();
            }
            return value;
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException(name + ": " + told(text) + " (expected: a decimal number)", e);
        }
    }

    /** A control by the id or the name of what it belongs to. */
    private static ControlId id(Session session, String owner, String path) {
        List<ControlId> all = new ArrayList<>();
        session.channels().stream()
                .filter(c -> c.id().value().equals(owner) || c.name().equalsIgnoreCase(owner))
                .findFirst()
                .ifPresentOrElse(
                        channel -> all.addAll(Controls.of(session, channel.id())), () -> session.vcas().stream()
                                .filter(v ->
                                        v.id().value().equals(owner) || v.name().equalsIgnoreCase(owner))
                                .findFirst()
                                .ifPresent(vca -> all.addAll(Controls.of(session, vca.id()))));
        if (all.isEmpty()) {
            throw new IllegalArgumentException("channel: " + told(owner) + " (expected: one of the session)");
        }
        return all.stream()
                .filter(id -> id.path().equals(path))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("parameter: " + told(path)
                        + " (expected: one that it has," + " such as " + Strip.FADER.key() + ")"));
    }

    private static String told(String text) {
        return "'" + PlainText.of(text, 60) + "'";
    }
}
