package waterwheel.core.engine;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.function.Function;
import waterwheel.core.inserts.Insert;
import waterwheel.core.instruments.Performance;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.NoteChange;
import waterwheel.core.path.GainMatrix;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.session.Clip;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Sha256;

/**
 * Identity of a signal's samples: half a SHA-256 of its own settings and its inputs' keys. Signals with equal keys hold
 * equal samples, whatever their channels are called.
 */
public record SignalKey(long high, long low) {
    /** Another number where the same settings give other samples than before: kept measurements are of those. */
    private static final long RULES = 4;

    /** The key as a file's name. */
    public String hex() {
        return HexFormat.of().toHexDigits(high) + HexFormat.of().toHexDigits(low);
    }

    /** The keys of all signals of a plan, in its order. */
    public static List<SignalKey> of(Plan plan, Media media) {
        return of(plan, media::fingerprint);
    }

    /**
     * The keys of all signals of a plan, in its order, that hold wherever the session's folder lies. Files that nobody
     * looked into yet are read for them.
     */
    public static List<SignalKey> ofContent(Plan plan, Media media) {
        return of(plan, media::content);
    }

    /** @param files what tells a source's samples from others' */
    private static List<SignalKey> of(Plan plan, Function<SourceId, String> files) {
        List<SignalKey> keys = new ArrayList<>();
        List<Long> ends = plan.soundEnds();
        for (int i = 0; i < plan.signals().size(); i++) {
            Signal signal = plan.signals().get(i);
            MessageDigest digest = Sha256.start();
            number(digest, RULES);
            // What has an end of its own is the same in a song of any length.
            number(digest, ends.get(i) == Long.MAX_VALUE ? plan.lengthFrames() : 0);
            number(digest, plan.sampleRateHz());
            number(digest, signal.planes());
            switch (signal) {
                case Signal.Source source -> source.clips().forEach(clip -> addClip(digest, clip, files));
                case Signal.Played played -> addPerformance(digest, played.performance(), files);
                case Signal.Sum sum -> {
                    for (Signal.Edge edge : sum.inputs()) {
                        if (!edge.gain().silent()) {
                            addEdge(digest, keys.get(edge.from()), edge.gain());
                        }
                    }
                }
                case Signal.Processed processed -> {
                    addEdge(
                            digest,
                            keys.get(processed.input().from()),
                            processed.input().gain());
                    processed
                            .key()
                            .ifPresent(
                                    key -> addEdge(digest, keys.get(key), GainMatrix.diagonal(processed.planes(), 1)));
                    addInsert(digest, processed.insert(), files);
                }
                case Signal.Ridden ridden -> {
                    addEdge(
                            digest,
                            keys.get(ridden.input().from()),
                            ridden.input().gain());
                    digest.update(ridden.motion().toString().getBytes(StandardCharsets.UTF_8));
                }
                case Signal.Delayed late -> {
                    addEdge(digest, keys.get(late.from()), GainMatrix.diagonal(late.planes(), 1));
                    number(digest, late.frames());
                }
                case Signal.Kept _, Signal.Returned _, Signal.Incoming _, Signal.Listened _ ->
                    throw new IllegalArgumentException(
                            "signal: " + signal.id() + " (expected: one that can be computed from the session)");
            }
            ByteBuffer result = ByteBuffer.wrap(digest.digest());
            keys.add(new SignalKey(result.getLong(), result.getLong()));
        }
        return keys;
    }

    /** The key of a text. */
    public static SignalKey ofText(String text) {
        ByteBuffer result = ByteBuffer.wrap(Sha256.start().digest(text.getBytes(StandardCharsets.UTF_8)));
        return new SignalKey(result.getLong(), result.getLong());
    }

    private static void addClip(MessageDigest digest, Clip clip, Function<SourceId, String> files) {
        digest.update(files.apply(clip.source()).getBytes(StandardCharsets.UTF_8));
        number(digest, clip.startFrames());
        number(digest, clip.offsetFrames());
        number(digest, clip.lengthFrames());
        number(digest, Double.doubleToLongBits(clip.gainDb()));
        digest.update(clip.side().label().getBytes(StandardCharsets.UTF_8));
        number(digest, clip.fadeInFrames());
        number(digest, clip.fadeOutFrames());
        number(digest, clip.gainCurve().points().size());
        for (CurvePoint point : clip.gainCurve().points()) {
            number(digest, point.frame());
            number(digest, Double.doubleToLongBits(point.value()));
            digest.update(point.shape().label().getBytes(StandardCharsets.UTF_8));
        }
    }

    private static void addPerformance(
            MessageDigest digest, Performance performance, Function<SourceId, String> files) {
        digest.update((performance.instrument() + " " + performance.output()).getBytes(StandardCharsets.UTF_8));
        performance
                .instrument()
                .sources()
                .forEach(id -> digest.update(files.apply(id).getBytes(StandardCharsets.UTF_8)));
        for (Note note : performance.notes().notes()) {
            number(digest, note.startFrames());
            number(digest, note.lengthFrames());
            number(digest, note.key() * 1_000L + note.velocity());
        }
        for (NoteChange change : performance.notes().changes()) {
            digest.update(change.toString().getBytes(StandardCharsets.UTF_8));
        }
    }

    private static void addInsert(MessageDigest digest, Insert insert, Function<SourceId, String> files) {
        digest.update(insert.processor().kind().key().getBytes(StandardCharsets.UTF_8));
        insert.processor().values().forEach(value -> number(digest, Double.doubleToLongBits(value)));
        insert.processor()
                .response()
                .ifPresent(id -> digest.update(files.apply(id).getBytes(StandardCharsets.UTF_8)));
        if (insert.processor().kind().loops()) {
            number(digest, Double.doubleToLongBits(insert.processor().loop().latencyFrames()));
        }
        number(digest, Double.doubleToLongBits(insert.outputDb()));
        number(digest, Double.doubleToLongBits(insert.mix()));
        if (insert.rides().anyActive()) {
            digest.update((insert.bypassed() + " " + insert.rides()).getBytes(StandardCharsets.UTF_8));
        }
    }

    private static void addEdge(MessageDigest digest, SignalKey from, GainMatrix gain) {
        number(digest, from.high());
        number(digest, from.low());
        for (double[] row : gain.toArray()) {
            for (double value : row) {
                number(digest, Double.doubleToLongBits(value));
            }
        }
    }

    private static void number(MessageDigest digest, long value) {
        digest.update(ByteBuffer.allocate(Long.BYTES).putLong(value).flip());
    }
}
