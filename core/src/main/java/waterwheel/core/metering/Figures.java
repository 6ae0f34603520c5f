package waterwheel.core.metering;

import waterwheel.core.units.Decibels;

/**
 * The figures of a signal over its whole length. Levels are negative infinity for silence.
 *
 * @param samplePeakDbfs largest sample magnitude
 * @param peakAtSeconds where that sample is; NaN for silence
 * @param truePeakDbtp largest magnitude between and at the samples, BS.1770-5 Annex 2; NaN where it was not measured
 * @param rmsDbfs plain RMS, AES17 convention, the louder side's
 * @param averageDbfs gated average, the louder side's; see {@link Average}
 * @param shortTermLowDbfs lower end of the range in which the 3 s RMS moves
 * @param shortTermHighDbfs upper end of it
 * @param noiseFloorDbfs see {@link Average#noiseFloorDbfs}
 * @param integratedLufs see {@link Loudness#integratedLufs}
 * @param momentaryMaxLufs highest 400 ms loudness
 * @param shortTermMaxLufs highest 3 s loudness
 * @param loudnessRangeLu see {@link Loudness#rangeLu}
 * @param correlation of left and right, -1 to +1; NaN for mono and where a side is silent
 */
public record Figures(
        double samplePeakDbfs,
        double peakAtSeconds,
        double truePeakDbtp,
        double rmsDbfs,
        double averageDbfs,
        double shortTermLowDbfs,
        double shortTermHighDbfs,
        double noiseFloorDbfs,
        double integratedLufs,
        double momentaryMaxLufs,
        double shortTermMaxLufs,
        double loudnessRangeLu,
        double correlation) {

    /** Computes the figures of a series. */
    public static Figures of(LevelSeries series) {
        int louder = 0;
        double peak = series.peak(0);
        for (int p = 1; p < series.planes(); p++) {
            double other = series.peak(p);
            louder = other > peak ? p : louder;
            peak = Math.max(peak, other);
        }
        long frame = series.peakFrame(louder);
        Energies plain = Energies.plain(series);
        Energies weighted = Energies.weighted(series);
        double[] range = Average.shortTermRangeDbfs(plain);
        return new Figures(
                Decibels.ofFactor(peak),
                frame < 0 ? Double.NaN : (double) frame / series.sampleRateHz(),
                // The samples themselves are points of the oversampled signal.
                Decibels.ofFactor(Math.max(series.truePeak(), peak)),
                Average.rmsDbfs(series),
                Average.dbfs(plain),
                range[0],
                range[1],
                Average.noiseFloorDbfs(plain),
                Loudness.integratedLufs(weighted),
                Loudness.momentaryMaxLufs(weighted),
                Loudness.shortTermMaxLufs(weighted),
                Loudness.rangeLu(weighted),
                Average.correlation(series));
    }

    /** 0 dBFS minus the sample peak, in dB; infinite for silence. */
    public double headroomDb() {
        return -samplePeakDbfs;
    }

    /** Sample peak minus RMS, in dB; NaN for silence. */
    public double crestDb() {
        return samplePeakDbfs - rmsDbfs;
    }

    public boolean silent() {
        return samplePeakDbfs == Double.NEGATIVE_INFINITY;
    }
}
