package waterwheel.core.songs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import waterwheel.core.errors.RenderException;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Target;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.AsideFile;
import waterwheel.core.work.Page;

/** The readable report of a whole delivery, printable. */
public final class DeliveryReport {
    /** Its name in the delivery's folder. */
    public static final String FILE = "delivery.html";

    private DeliveryReport() {}

    /**
     * Writes it beside the songs.
     *
     * @throws RenderException if the disk refuses
     */
    public static void write(RunningOrder order, DeliveryRequest request, List<DeliveredSong> songs)
            throws RenderException {
        try {
            Files.createDirectories(request.folder());
            String html = html(order, request, songs);
            AsideFile.write(
                    request.folder().resolve(FILE), path -> Files.writeString(path, html, StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new RenderException(
                    "The report cannot be written to " + request.folder() + ": " + e.getMessage() + ".",
                    "Check its rights and the space on the disk.",
                    e);
        }
    }

    static String html(RunningOrder order, DeliveryRequest request, List<DeliveredSong> songs) {
        long held = songs.stream().filter(DeliveredSong::holds).count();
        Target target = order.target();
        return Page.filled(
                DeliveryReport.class,
                "delivery-report.html",
                Map.of(
                        "title",
                        order.title(),
                        "format",
                        request.format().label(),
                        "target",
                        target.goal().text() + " at " + LevelText.level(target.lufs(), "LUFS") + ", within "
                                + LevelText.signed(target.toleranceLu(), 1, false) + " LU, true peak at most "
                                + LevelText.level(target.guardDbtp(), "dBTP"),
                        "count",
                        songs.size() + (songs.size() == 1 ? " song" : " songs"),
                        "verdict",
                        held == songs.size() ? "Every proof holds" : "Not every proof holds",
                        "told",
                        held + " of " + songs.size() + " songs are whole and add up.",
                        "songs",
                        songs.stream().map(song -> song(order, request, song)).toList()));
    }

    private static Map<String, Object> song(RunningOrder order, DeliveryRequest request, DeliveredSong song) {
        return Map.of(
                "title",
                song.folder(),
                "proof",
                song.proof(),
                "parts",
                song.parts().stream().map(part -> part(order, request, part)).toList());
    }

    private static Map<String, String> part(RunningOrder order, DeliveryRequest request, DeliveredPart part) {
        Level level = part.level();
        double target = targetLufs(order, request, part);
        return Map.of(
                "name",
                part.sum() ? "Sum" : part.name(),
                "where",
                part.where(),
                "loudness",
                LevelText.level(level.integratedLufs(), "LUFS"),
                "off",
                Double.isNaN(target) ? "" : LevelText.signed(level.integratedLufs() - target, 1, true) + " LU",
                "range",
                LevelText.signed(level.rangeLu(), 1, false) + " LU",
                "truePeak",
                LevelText.level(level.truePeakDbtp(), "dBTP"));
    }

    /** NaN where nothing was aimed at: cues, what lies on channels with others, the sum where parts are the goal. */
    private static double targetLufs(RunningOrder order, DeliveryRequest request, DeliveredPart part) {
        boolean sums = order.target().goal() == Target.Goal.SUM;
        if (request.channels().isPresent() || part.sum() != sums) {
            return Double.NaN;
        }
        Part known = order.part(part.name());
        return part.sum() ? order.target().lufs() : known.cue() ? Double.NaN : order.targetLufs(part.name());
    }
}
