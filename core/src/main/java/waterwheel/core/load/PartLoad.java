package waterwheel.core.load;

/**
 * What a part takes, as shares of the time that a block lasts: 0.031 is 3.1 %.
 *
 * @param usual the median over the last seconds
 * @param mean over all blocks
 * @param worst the most that one block of the last ten seconds took
 */
public record PartLoad(Part part, double usual, double mean, double worst) {
    PartLoad with(PartLoad other) {
        return new PartLoad(part, usual + other.usual, mean + other.mean, worst + other.worst);
    }
}
