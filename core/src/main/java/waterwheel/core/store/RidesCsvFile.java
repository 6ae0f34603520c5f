package waterwheel.core.store;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.Ride;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Controls;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.PlainText;

/** Reads rides that {@link RidesCsv} wrote, or a spreadsheet. */
public final class RidesCsvFile {
    private static final int OF_SONG = -1;

    /** What a row is of: a control, over the song or in a clip, written or as an offset. */
    private record Layer(ControlId id, int clip, boolean offset) {
        /** What an offset of the song lies on. */
        Layer written() {
            return new Layer(id, OF_SONG, false);
        }
    }

    private final Session session;
    private final Map<Layer, List<CurvePoint>> layers = new LinkedHashMap<>();
    private final Map<ControlId, Boolean> suspended = new LinkedHashMap<>();

    private RidesCsvFile(Session session) {
        this.session = session;
    }

    /**
     * Reads rides from a file.
     *
     * @return the step that puts them in place of those of the controls, and of the clips' curves, that it names
     * @throws SessionFileException if a row cannot be: it names the row and what is expected
     */
    public static Edit read(Session session, Path file) throws SessionFileException {
        List<String[]> rows = rows(file);
        if (rows.isEmpty() || !Arrays.asList(rows.getFirst()).equals(RidesCsv.COLUMNS)) {
            throw new SessionFileException(
                    "The file '" + file + "' does not begin with the columns of rides.",
                    "Its first line must be " + String.join(",", RidesCsv.COLUMNS) + ".");
        }
        RidesCsvFile read = new RidesCsvFile(session);
        for (int i = 1; i < rows.size(); i++) {
            try {
                read.take(rows.get(i));
            } catch (IllegalArgumentException | ArithmeticException e) {
                throw new SessionFileException(
                        "Line " + (i + 1) + " of '" + file.getFileName() + "' cannot be: " + e.getMessage() + ".",
                        "Correct it; nothing was changed.");
            }
        }
        List<Edit> edits = new ArrayList<>();
        for (Layer layer : read.layers.keySet()) {
            boolean ofWritten = layer.clip() == OF_SONG && layer.offset() && read.layers.containsKey(layer.written());
            if (!ofWritten) {
                edits.add(read.edit(layer));
            }
        }
        return Edit.together("Curves of " + file.getFileName(), edits);
    }

    private Edit edit(Layer layer) throws SessionFileException {
        ControlId id = layer.id();
        Layer written = layer.written();
        if (layer.clip() == OF_SONG && !layers.containsKey(written)) {
            throw new SessionFileException(
                    "The ride '" + id.path() + "' of '" + id.owner() + "' has an offset and nothing written.",
                    "Add a row of the layer written.");
        }
        try {
            if (layer.clip() != OF_SONG) {
                ClipRide ride = new ClipRide(id.part(), id.key(), new Curve(points(layer)));
                return ClipEdits.ride((Track) session.channel(id.owner()), layer.clip(), ride);
            }
            Ride ride = ride(points(written), points(new Layer(id, OF_SONG, true)), suspended.getOrDefault(id, false));
            return new Edit("Ride", s -> Controls.with(s, id, ride));
        } catch (IllegalArgumentException e) {
            throw new SessionFileException(
                    "The ride '" + id.path() + "' of '" + id.owner() + "' cannot be: " + e.getMessage() + ".",
                    "Give each point a later time than the one before.");
        }
    }

    private List<CurvePoint> points(Layer layer) {
        return layers.getOrDefault(layer, List.of());
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

    private void take(String[] row) {
        if (row.length != RidesCsv.COLUMNS.size()) {
            throw new IllegalArgumentException(row.length + " values (expected: " + RidesCsv.COLUMNS.size() + ")");
        }
        ControlId id = id(session, row[0], row[1]);
        Control control = Controls.control(session, id);
        int clip = clip(id, row[2]);
        boolean offset = row[3].equals(RidesCsv.OFFSET);
        if (!offset && (clip != OF_SONG || !row[3].equals(RidesCsv.WRITTEN))) {
            throw new IllegalArgumentException("layer: " + told(row[3]) + " (expected: "
                    + (clip == OF_SONG ? RidesCsv.WRITTEN + " or " : "") + RidesCsv.OFFSET + ")");
        }
        double value = decimal("value", row[6]).doubleValue();
        if (!offset && control.limited(value) != value) {
            throw new IllegalArgumentException("value: " + told(row[6]) + " (expected: "
                    + RidesCsv.number(control.least()) + " to " + RidesCsv.number(control.most()) + ")");
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
        layers.computeIfAbsent(new Layer(id, clip, offset), any -> new ArrayList<>())
                .add(new CurvePoint(frame, value, shape));
        if (clip == OF_SONG) {
            suspended.put(id, Boolean.parseBoolean(row[4]));
        }
    }

    /** The place of a clip among its track's; of the song where a row reaches over that. */
    private int clip(ControlId id, String reach) {
        if (reach.equals(RidesCsv.SONG)) {
            return OF_SONG;
        }
        int clips = session.find(id.owner()).orElse(null) instanceof Track track
                ? track.clips().size()
                : 0;
        for (int i = 0; i < clips; i++) {
            if (reach.equals(RidesCsv.CLIP + (i + 1))) {
                return i;
            }
        }
        throw new IllegalArgumentException("reach: " + told(reach) + " (expected: " + RidesCsv.SONG
                + (clips == 0 ? "" : ", or clip 1" + (clips == 1 ? "" : " to clip " + clips)) + ")");
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
