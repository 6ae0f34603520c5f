package waterwheel.core.recording;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.CurvePoint;
import waterwheel.core.rides.CurveRange;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;

/** Makes room between clips. What is left of one sounds as before, but for a fade that the cut took. */
final class ClipRoom {
    private ClipRoom() {}

    /** What is left of a clip beside a stretch of the song's line: nothing, a part, or one on each side. */
    static List<Clip> beside(Clip clip, long from, long to) {
        if (clip.endFrames() <= from || clip.startFrames() >= to) {
            return List.of(clip);
        }
        List<Clip> left = new ArrayList<>();
        if (clip.startFrames() < from) {
            left.add(part(clip, clip.startFrames(), from));
        }
        if (clip.endFrames() > to) {
            left.add(part(clip, to, clip.endFrames()));
        }
        return left;
    }

    private static Clip part(Clip clip, long from, long to) {
        long skipped = from - clip.startFrames();
        long length = to - from;
        long in = skipped == 0 ? Math.min(clip.fadeInFrames(), length) : 0;
        long out = to == clip.endFrames() ? Math.min(clip.fadeOutFrames(), length - in) : 0;
        return new Clip(
                clip.source(),
                from,
                clip.offsetFrames() + skipped,
                length,
                clip.gainDb(),
                in,
                out,
                later(clip.gainCurve(), skipped, length),
                clip.side(),
                clip.rides().stream()
                        .map(ride -> new ClipRide(ride.part(), ride.key(), later(ride.offset(), skipped, length)))
                        .toList());
    }

    /** A curve of the whole clip as one of a part of it. */
    private static Curve later(Curve curve, long skipped, long length) {
        if (curve.isNone()) {
            return curve;
        }
        return new Curve(new CurveRange(skipped, skipped + length)
                .cut(curve, Scale.PLAIN).stream()
                        .map(point -> new CurvePoint(point.frame() - skipped, point.value(), point.shape()))
                        .toList());
    }
}
