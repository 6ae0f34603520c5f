package waterwheel.desktop.rides;

import waterwheel.core.rides.Control;
import waterwheel.core.rides.Scale;
import waterwheel.core.units.LevelText;

/** How a control's values stand in a lane, from 0 at its lower edge to 1 at its upper one, and how they read. */
record LaneScale(Control control) {
    private static final double SWITCH_MARGIN = 0.15;

    double toPlace(double value) {
        double place = control.toPlace(value);
        return control.scale() == Scale.SWITCH ? SWITCH_MARGIN + place * (1 - 2 * SWITCH_MARGIN) : place;
    }

    /** The value at a place, rounded to what a hand can set. */
    double toValue(double place) {
        double value = control.toValue(place);
        if (control.isFader()) {
            return Math.max(Control.SILENT_DB, Math.round(value * 10) / 10.0);
        }
        return switch (control.scale()) {
            case SWITCH -> value;
            case OCTAVES -> value < 1_000 ? Math.round(value) : Math.round(value / 10) * 10.0;
            case PLAIN -> stepped(value);
        };
    }

    /** By how much the keys move a value, given as the value they come to. */
    double stepped(double value, int steps, boolean far) {
        if (control.scale() == Scale.SWITCH) {
            return steps > 0 ? 1 : 0;
        }
        double by = steps * (far ? 10 : 1);
        if (control.scale() == Scale.OCTAVES) {
            return control.limited(value * Math.pow(2, by / 24));
        }
        return control.limited(stepped(value + by * step()));
    }

    private double stepped(double value) {
        return Math.rint(value / step()) * step();
    }

    private double step() {
        if (control.unit().startsWith("dB")) {
            return 0.1;
        }
        return control.most() - control.least() > 20 ? 1 : 0.01;
    }

    /** A value as it reads, with its unit. */
    String text(double value) {
        if (control.scale() == Scale.SWITCH) {
            return value >= 0.5 ? "on" : "off";
        }
        if (control.unit().startsWith("dB")) {
            double shown = control.isFader() && value <= Control.SILENT_DB ? Double.NEGATIVE_INFINITY : value;
            return LevelText.signed(shown, 1, true) + " " + control.unit();
        }
        if (control.key().equals("position")) {
            long percent = Math.round(Math.abs(value) * 100);
            return percent == 0 ? "centre" : (value < 0 ? "left " : "right ") + percent + " %";
        }
        if (control.key().equals("width") || control.key().equals("mix")) {
            return Math.round(value * 100) + " %";
        }
        int decimals = control.most() - control.least() > 50 ? 0 : 2;
        return (LevelText.signed(value, decimals, false) + " " + control.unit()).strip();
    }

    /** The lower edge in few letters. */
    String lower() {
        return control.scale() == Scale.SWITCH ? "off" : text(control.least());
    }

    String upper() {
        return control.scale() == Scale.SWITCH ? "on" : text(control.most());
    }
}
