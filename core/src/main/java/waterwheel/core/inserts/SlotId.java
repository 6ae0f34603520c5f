package waterwheel.core.inserts;

/** What tells one insert slot of a channel from its others, whatever their order. */
public record SlotId(String value) {
    public SlotId {
        if (!value.matches("[A-Za-z0-9.-]{1,80}")) {
            throw new IllegalArgumentException("value: '" + value + "' (expected: letters, digits, dots, dashes)");
        }
    }

    @Override
    public String toString() {
        return value;
    }
}
