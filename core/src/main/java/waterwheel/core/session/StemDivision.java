package waterwheel.core.session;

import java.util.List;
import java.util.Optional;

/**
 * How a mix is divided into stems.
 *
 * @param by what makes a stem
 * @param returnsApart whether each return is a stem of its own; else every stem has its share of them
 * @param named the stems that were put together by hand, which are kept while others are asked for
 */
public record StemDivision(By by, boolean returnsApart, List<NamedStem> named) {
    /** What makes a stem. */
    public enum By {
        /** Each track by itself. */
        TRACKS("tracks"),
        /** The tracks under each bus that feeds the main bus together; those that feed it directly by themselves. */
        BUSES("buses"),
        /** Those put together by hand; what is in none of them by itself. */
        NAMED("named");

        private final String label;

        By(String label) {
            this.label = label;
        }

        /** The word on the command line and in the session file. */
        public String label() {
            return label;
        }
    }

    /** A stem of each track, with its share of every return. */
    public static final StemDivision TRACKS = new StemDivision(By.TRACKS, false, List.of());

    /** A stem of each bus that feeds the main bus, with its share of every return. */
    public static final StemDivision BUSES = new StemDivision(By.BUSES, false, List.of());

    public StemDivision {
        named = List.copyOf(named);
    }

    /** The stem with an id that was put together by hand. */
    public Optional<NamedStem> find(ChannelId id) {
        return named.stream().filter(stem -> stem.id().equals(id)).findFirst();
    }

    /** What a stem is called: as the channel of its id, or as it was named by hand; empty where there is neither. */
    public Optional<String> name(Session session, ChannelId id) {
        return session.find(id).map(Channel::name).or(() -> find(id).map(NamedStem::name));
    }

    public StemDivision withBy(By value) {
        return new StemDivision(value, returnsApart, named);
    }

    public StemDivision withReturnsApart(boolean value) {
        return new StemDivision(by, value, named);
    }

    public StemDivision withNamed(List<NamedStem> value) {
        return new StemDivision(by, returnsApart, value);
    }
}
