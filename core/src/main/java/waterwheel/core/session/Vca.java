package waterwheel.core.session;

import java.util.List;
import waterwheel.core.rides.Control;
import waterwheel.core.rides.Ridable;
import waterwheel.core.rides.Rides;
import waterwheel.core.units.Ranges;

/**
 * A fader over faders. It carries no audio: its gain is added in dB to that of its members, once for each channel,
 * however many ways lead there over other VCAs. A channel that it leaves alone is moved by it by no way.
 *
 * @param faderDb what it adds, negative infinity to +12 dB
 * @param muted whether its members are mute
 * @param members channels and other VCAs, by id
 * @param exempt members that it leaves alone for the time being
 * @param rides of fader and mute
 */
public record Vca(
        ChannelId id,
        String name,
        double faderDb,
        boolean muted,
        List<ChannelId> members,
        List<ChannelId> exempt,
        Rides rides)
        implements Ridable {
    public Vca {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        faderDb = Ranges.checked("faderDb", faderDb, Double.NEGATIVE_INFINITY, Strip.FADER_TOP_DB);
        members = List.copyOf(members);
        exempt = List.copyOf(exempt);
    }

    /** A VCA without rides. */
    public Vca(
            ChannelId id, String name, double faderDb, boolean muted, List<ChannelId> members, List<ChannelId> exempt) {
        this(id, name, faderDb, muted, members, exempt, Rides.NONE);
    }

    /** What of a VCA can be ridden. */
    public static List<Control> controls() {
        return List.of(Strip.FADER, Strip.MUTED);
    }

    @Override
    public double value(String key) {
        return key.equals(Strip.FADER.key()) ? faderDb : muted ? 1 : 0;
    }

    @Override
    public Vca with(String key, double value) {
        return key.equals(Strip.FADER.key())
                ? withFaderDb(Math.min(value, Strip.FADER_TOP_DB))
                : withMuted(value >= 0.5);
    }

    @Override
    public Vca withRides(Rides value) {
        return new Vca(id, name, faderDb, muted, members, exempt, value);
    }

    /** Whether a channel or another VCA is a member that it does not leave alone. */
    public boolean moves(ChannelId member) {
        return members.contains(member) && !exempt.contains(member);
    }

    public Vca withFaderDb(double value) {
        return new Vca(id, name, value, muted, members, exempt, rides);
    }

    public Vca withMuted(boolean value) {
        return new Vca(id, name, faderDb, value, members, exempt, rides);
    }

    public Vca withName(String value) {
        return new Vca(id, value, faderDb, muted, members, exempt, rides);
    }

    public Vca withMembers(List<ChannelId> value) {
        return new Vca(id, name, faderDb, muted, value, exempt, rides);
    }

    public Vca withExempt(List<ChannelId> value) {
        return new Vca(id, name, faderDb, muted, members, value, rides);
    }
}
