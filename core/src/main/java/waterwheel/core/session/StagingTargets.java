package waterwheel.core.session;

import waterwheel.core.units.Ranges;

/**
 * What a session's channels are staged to, beside its nominal level.
 *
 * @param percussivePeakDbfs peak of percussive material, -24 to 0 dBFS; -12 to -8 is sensible
 * @param guardPeakDbfs what no proposed trim lets a peak pass, -24 to 0 dBFS
 * @param noiseFloorDbfs what a noise floor should not rise above, -120 to 0 dBFS
 */
public record StagingTargets(double percussivePeakDbfs, double guardPeakDbfs, double noiseFloorDbfs) {
    /** Percussion peaks at -10 dBFS, nothing above -6 dBFS, noise below -60 dBFS. */
    public static final StagingTargets DEFAULT = new StagingTargets(-10, -6, -60);

    public StagingTargets {
        percussivePeakDbfs = Ranges.checked("percussivePeakDbfs", percussivePeakDbfs, -24, 0);
        guardPeakDbfs = Ranges.checked("guardPeakDbfs", guardPeakDbfs, -24, 0);
        noiseFloorDbfs = Ranges.checked("noiseFloorDbfs", noiseFloorDbfs, -120, 0);
    }
}
