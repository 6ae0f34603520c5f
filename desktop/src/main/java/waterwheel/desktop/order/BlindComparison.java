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

    private final Thing first;
    private final Thing second;

    /** Begins with the first of them, which either may be. */
    BlindComparison(Thing one, Thing other, RandomGenerator dice) {
        boolean turned = dice.nextBoolean();
        first = turned ? other : one;
        second = turned ? one : other;
    }

    void hear(boolean one) {
        (one ? first : second).hear().run();
    }

    /** Which was which. */
    String told() {
        return "One was " + first.name() + ", the other " + second.name() + ".";
    }
}
