package waterwheel.core.rides;

/** What has controls that can be ridden, such as a channel's strip or an insert. Immutable. */
public interface Ridable {
    /** What a control is set to, whatever its ride says; a switch is 0 or 1. */
    double value(String key);

    /** Returns this with a control set to another value within its range; a switch is on from a half. */
    Ridable with(String key, double value);

    /** The rides of its controls. */
    Rides rides();

    /** Returns this with other rides. */
    Ridable withRides(Rides value);
}
