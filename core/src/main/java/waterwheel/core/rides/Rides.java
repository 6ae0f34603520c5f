package waterwheel.core.rides;

import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * The rides of what has several controls, such as a channel's strip or an insert.
 *
 * @param byKey by the control's key, in the order of the keys; none without points
 */
public record Rides(Map<String, Ride> byKey) {
    public static final Rides NONE = new Rides(Map.of());

    public Rides {
        byKey = Collections.unmodifiableMap(new TreeMap<>(byKey));
    }

    public boolean isNone() {
        return byKey.isEmpty();
    }

    /** A control's ride, suspended or not. */
    public Optional<Ride> find(String key) {
        return Optional.ofNullable(byKey.get(key));
    }

    /** A control's ride while it moves the control. */
    public Optional<Ride> active(String key) {
        return find(key).filter(Ride::active);
    }

    /** Whether some control is moved. */
    public boolean anyActive() {
        return byKey.values().stream().anyMatch(Ride::active);
    }

    /** The frame before which other rides say the same; {@link Long#MAX_VALUE} where they always do. */
    public long sameUntil(Rides other) {
        Ride none = Ride.of(Curve.NONE);
        return Stream.concat(byKey.keySet().stream(), other.byKey.keySet().stream())
                .mapToLong(
                        key -> find(key).orElse(none).sameUntil(other.find(key).orElse(none)))
                .min()
                .orElse(Long.MAX_VALUE);
    }

    /** Returns these rides with one more or another one of a control; without it where it has no points. */
    public Rides with(String key, Ride ride) {
        Map<String, Ride> changed = new TreeMap<>(byKey);
        if (ride.curve().isNone()) {
            changed.remove(key);
        } else {
            changed.put(key, ride);
        }
        return new Rides(changed);
    }

    /** Returns these rides without a control's. */
    public Rides without(String key) {
        return with(key, Ride.of(Curve.NONE));
    }
}
