package waterwheel.core.session;

import java.util.List;
import waterwheel.core.units.Ranges;

/**
 * A fader over faders. It carries no audio: its gain is added in dB to that of its members, once for each channel,
 * however many ways lead there over other VCAs. A channel that it leaves alone is moved by it by no way.
 *
 * @param faderDb what it adds, negative infinity to +12 dB
 * @param muted whether its members are mute
 * @param members channels and other VCAs, by id
 * @param exempt members that it leaves alone for the time being
 */
public record Vca(
        ChannelId id, String name, double faderDb, boolean muted, List<ChannelId> members, List<ChannelId> exempt) {
    public Vca {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        faderDb = Ranges.checked("faderDb", faderDb, Double.NEGATIVE_INFINITY, Strip.FADER_TOP_DB);
        members = List.copyOf(members);
        exempt = List.copyOf(exempt);
    }

    /** Whether a channel or another VCA is a member that it does not leave alone. */
    public boolean moves(ChannelId member) {
        return members.contains(member) && !exempt.contains(member);
    }

    public Vca withFaderDb(double value) {
        return new Vca(id, name, value, muted, members, exempt);
    }

    public Vca withMuted(boolean value) {
        return new Vca(id, name, faderDb, value, members, exempt);
    }

    public Vca withName(String value) {
        return new Vca(id, value, faderDb, muted, members, exempt);
    }

    public Vca withMembers(List<ChannelId> value) {
        return new Vca(id, name, faderDb, muted, value, exempt);
    }

    public Vca withExempt(List<ChannelId> value) {
        return new Vca(id, name, faderDb, muted, members, value);
    }
}
