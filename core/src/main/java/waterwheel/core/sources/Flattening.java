package waterwheel.core.sources;

import waterwheel.core.units.Ranges;

/**
 * Flattened samples that a file had before it was converted: they are lost, but the converted file no longer shows it.
 *
 * @param runs how many runs of equal samples at full scale
 * @param samples how many samples in them
 * @param firstSeconds where the first of them is, from the file's beginning
 */
public record Flattening(long runs, long samples, double firstSeconds) {
    public Flattening {
        runs = Ranges.checked("runs", runs, 1);
        samples = Ranges.checked("samples", samples, runs);
        firstSeconds = Ranges.checked("firstSeconds", firstSeconds, 0, Double.MAX_VALUE);
    }
}
