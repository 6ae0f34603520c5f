package waterwheel.desktop.clips;

import java.util.function.LongToDoubleFunction;
import org.jspecify.annotations.Nullable;
import waterwheel.core.engine.ClipShape;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.filefacts.Overview;
import waterwheel.core.units.Decibels;
import waterwheel.desktop.clips.ClipsModel.Detail;
import waterwheel.desktop.clips.ClipsModel.View;
import waterwheel.desktop.controls.Waveform;

/**
 * What is seen of a clip's sound: the file as a whole, or the closer look at the stretch in sight, with the clip's gain,
 * fades and curve.
 *
 * @param overview null while it is not known
 * @param from the file's frame that the overview begins with
 * @param length how many frames it covers
 * @param offset the file's frame at the clip's beginning
 * @param asItIs whether gain, fades and curve are in what is drawn already
 */
record ClipWave(View view, @Nullable Overview overview, long from, double length, long offset, boolean asItIs) {
    static ClipWave of(ClipsModel model, View view) {
        ClipsModel.Seen seen = view.seen(model.session().session());
        long first = view.from() + seen.offset();
        Detail detail = model.detailProperty().get();
        if (detail != null && detail.source().equals(seen.source()) && detail.from() <= first && first < detail.to()) {
            return new ClipWave(
                    view, detail.overview(), detail.from(), detail.to() - detail.from(), seen.offset(), seen.frozen());
        }
        FileFacts facts = model.session().levels().files().get(seen.source().id());
        return new ClipWave(
                view, facts == null ? null : facts.overview(), 0, seen.source().frames(), seen.offset(), seen.frozen());
    }

    void draw(Waveform waveform) {
        LongToDoubleFunction gain = gain();
        double first = part(view.from());
        waveform.show(
                overview,
                first,
                first + view.length() / length,
                place -> gain.applyAsDouble(view.from() + (long) (place * (view.length() - 1))));
    }

    /** Where a frame of the clip lies in the overview, 0 at its beginning and 1 at its end. */
    private double part(long frame) {
        return (frame + offset - from) / length;
    }

    /** Linear, by the clip's frame. */
    private LongToDoubleFunction gain() {
        if (asItIs) {
            return frame -> 1;
        }
        ClipShape shape = new ClipShape(view.clip());
        double constant = Decibels.toFactor(view.clip().gainDb());
        return frame -> constant * shape.at(frame);
    }

    /**
     * The largest sample around a frame, as it is drawn there, in dBFS.
     *
     * @param frames how many are looked at: what a pixel covers
     * @return NaN while it is not known
     */
    double peakDbfs(long frame, double frames) {
        if (overview == null || overview.stretches() == 0) {
            return Double.NaN;
        }
        int stretches = overview.stretches();
        double at = part(frame) * stretches;
        double half = frames / length * stretches / 2;
        int a = (int) Math.clamp(at - half, 0, stretches - 1);
        int b = (int) Math.clamp(Math.ceil(at + half), a + 1, stretches);
        double peak = Math.max(overview.highest(a, b), -overview.lowest(a, b));
        return Decibels.ofFactor(peak * gain().applyAsDouble(frame));
    }
}
