package waterwheel.core.session;

/** A channel whose signal is the sum of its inputs; always stereo. The main bus is one whose output is nowhere. */
public record Bus(ChannelId id, String name, Strip strip) implements Channel {
    public Bus {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
    }

    @Override
    public int planes() {
        return 2;
    }

    @Override
    public Bus withStrip(Strip value) {
        return new Bus(id, name, value);
    }

    @Override
    public Bus withName(String value) {
        return new Bus(id, value, strip);
    }
}
