package waterwheel.desktop.clips;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Parameter;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Curve;
import waterwheel.core.rides.Scale;
import waterwheel.core.session.Clip;
import waterwheel.core.session.ClipRide;
import waterwheel.core.session.ClipRides;
import waterwheel.core.session.ControlId;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.units.LevelText;

/**
 * One of the curves that a clip can have.
 *
 * @param name on screen
 * @param part what of the channel it lies on top of; null for the clip's own gain
 * @param key the control's key
 * @param unit of its values
 * @param edge the value at the upper and, negative, at the lower edge of the picture
 * @param step what a hand can set
 */
record ClipCurve(String name, ControlId.@Nullable Part part, String key, String unit, double edge, double step) {
    /** The clip's own gain, before trim and inserts. */
    static final ClipCurve GAIN = new ClipCurve("Gain", null, "gainDb", "dB", 24, 0.1);

    private static final double KEY_STEPS = 5;

    /** What can be drawn in a clip of a track: gain, fader, position, and one equaliser's gains and frequencies. */
    static List<ClipCurve> of(Track track, Clip clip) {
        ControlId.Part strip = new ControlId.OfStrip();
        List<ClipCurve> all = new ArrayList<>();
        all.add(GAIN);
        all.add(new ClipCurve("Fader", strip, Strip.FADER.key(), "dB", 24, 0.1));
        all.add(new ClipCurve("Position", strip, Placement.POSITION.key(), "%", 1, 0.01));
        Optional<SlotId> slot = ClipRides.slot(clip);
        for (Insert insert : track.strip().inserts()) {
            boolean open = slot.isEmpty() || slot.get().equals(insert.id());
            if (open && insert.processor().kind().equals(Equaliser.KIND)) {
                insert.processor().kind().parameters().stream()
                        .filter(parameter -> !parameter.built())
                        .map(Parameter::control)
                        .filter(control -> control.scale() == Scale.OCTAVES
                                || control.unit().equals("dB"))
                        .forEach(control -> all.add(of(insert, control)));
            }
        }
        return all;
    }

    private static ClipCurve of(Insert insert, Control control) {
        boolean octaves = control.scale() == Scale.OCTAVES;
        return new ClipCurve(
                insert.processor().kind().label() + ": " + control.name() + (octaves ? " frequency" : ""),
                new ControlId.OfInsert(insert.id()),
                control.key(),
                octaves ? "octaves" : "dB",
                octaves ? 3 : 24,
                octaves ? 0.05 : 0.1);
    }

    /** A clip's curve of this kind. */
    Curve in(Clip clip) {
        return part == null ? clip.gainCurve() : clip.ride(part, key);
    }

    /** Gives a clip another curve of this kind. */
    Edit edit(Track track, int clip, Curve curve) {
        return part == null
                ? ClipEdits.curve(track, clip, curve)
                : ClipEdits.ride(track, clip, new ClipRide(part, key, curve));
    }

    /** A value that a hand can set. */
    double stepped(double value) {
        return Math.clamp(Math.rint(value / step) * step, -edge, edge);
    }

    /** By how much a key moves it. */
    double keyStep() {
        return step * KEY_STEPS;
    }

    /** A value as it reads, with its unit. */
    String text(double value) {
        return switch (unit) {
            case "dB" -> LevelText.change(value);
            case "%" -> {
                long percent = Math.round(100 * Math.abs(value));
                yield percent == 0 ? "as set" : percent + " % to the " + (value < 0 ? "left" : "right");
            }
            default -> LevelText.signed(value, 2, true) + " " + unit;
        };
    }

    /** The value at the upper or the lower edge, short. */
    String edgeText(boolean upper) {
        return unit.equals("%")
                ? upper ? "right" : "left"
                : LevelText.signed(upper ? edge : -edge, 0, true) + " " + (unit.equals("octaves") ? "oct" : unit);
    }
}
