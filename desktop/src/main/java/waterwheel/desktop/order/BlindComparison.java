package waterwheel.desktop.order;

import java.util.random.RandomGenerator;

/** Two things of which the one who listens is not told which is heard, until it is asked for. */
final class BlindComparison {
    /**
     * One of them.
     *
     * @param name as it is told in the end
     * @param hear has it heard
     */
    record Thing(String name, Runnable hear) {}

    private final boolean ofSongs;
    private final Thing first;
    private final Thing second;

    /**
     * Begins with the first of them, which either may be.
     *
     * @param ofSongs whether they are songs, whose names and lengths would tell
     */
    BlindComparison(boolean ofSongs, Thing one, Thing other, RandomGenerator dice) {
        this.ofSongs = ofSongs;
        boolean turned = dice.nextBoolean();
        first = turned ? other : one;
        second = turned ? one : other;
    }

    boolean ofSongs() {
        return ofSongs;
    }

    void hear(boolean one) {
        (one ? first : second).hear().run();
    }

    /** Which was which. */
    String told() {
        return "One was " + first.name() + ", the other " + second.name() + ".";
    }
}
