package waterwheel.core.songs;

import waterwheel.core.metering.Figures;

/**
 * What is said of a part, a sum, or a section of one. Silence is negative infinity.
 *
 * @param integratedLufs gated loudness over it, ITU-R BS.1770, LUFS
 * @param rangeLu loudness range, EBU Tech 3342, LU
 * @param truePeakDbtp BS.1770 Annex 2; NaN within a section, where only the sample peak is known
 * @param samplePeakDbfs largest sample
 */
public record Level(double integratedLufs, double rangeLu, double truePeakDbtp, double samplePeakDbfs) {
    static Level of(Figures figures) {
        return new Level(
                figures.integratedLufs(), figures.loudnessRangeLu(), figures.truePeakDbtp(), figures.samplePeakDbfs());
    }

    static Level within(Figures figures) {
        return new Level(figures.integratedLufs(), figures.loudnessRangeLu(), Double.NaN, figures.samplePeakDbfs());
    }

    /** Full scale minus the true peak, in dB; minus the sample peak within a section. */
    public double headroomDb() {
        return Double.isNaN(truePeakDbtp) ? -samplePeakDbfs : -truePeakDbtp;
    }

    public boolean silent() {
        return integratedLufs == Double.NEGATIVE_INFINITY;
    }
}
