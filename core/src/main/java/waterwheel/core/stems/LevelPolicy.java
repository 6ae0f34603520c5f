package waterwheel.core.stems;

import waterwheel.core.metering.Figures;
import waterwheel.core.units.Ranges;

/** The one rule by which a render's level is set; nothing else changes it. */
public sealed interface LevelPolicy {
    /** Peaks that can be asked for, in dBFS. */
    double LEAST_PEAK_DBFS = -80;

    double MOST_PEAK_DBFS = 24;

    /** Loudness that can be asked for, in LUFS. */
    double LEAST_LUFS = -70;

    double MOST_LUFS = 12;

    /** No gain. */
    record AsMixed() implements LevelPolicy {}

    /** One gain for all files, so that the loudest stem's sample peak reaches a level. */
    record LoudestStemPeak(double peakDbfs) implements LevelPolicy {
        public LoudestStemPeak {
            peakDbfs = Ranges.checked("peakDbfs", peakDbfs, LEAST_PEAK_DBFS, MOST_PEAK_DBFS);
        }
    }

    /** One gain for all files, so that the mix keeps a headroom under full scale. */
    record MixHeadroom(double headroomDb) implements LevelPolicy {
        public MixHeadroom {
            headroomDb = Ranges.checked("headroomDb", headroomDb, -MOST_PEAK_DBFS, -LEAST_PEAK_DBFS);
        }
    }

    /** One gain for all files, so that the mix has an integrated loudness. */
    record MixLoudness(double lufs) implements LevelPolicy {
        public MixLoudness {
            lufs = Ranges.checked("lufs", lufs, LEAST_LUFS, MOST_LUFS);
        }
    }

    /**
     * The gain in dB that the policy asks for; 0 where the level it starts from is silence.
     *
     * @param loudestStemPeakDbfs the highest sample peak of all stems of the mix as mixed
     * @param mix the mix as mixed
     */
    default double gainDb(double loudestStemPeakDbfs, Figures mix) {
        double gain =
                switch (this) {
                    case AsMixed() -> 0;
                    case LoudestStemPeak(double peakDbfs) -> peakDbfs - loudestStemPeakDbfs;
                    case MixHeadroom(double headroomDb) -> -headroomDb - mix.samplePeakDbfs();
                    case MixLoudness(double lufs) -> lufs - mix.integratedLufs();
                };
        return Double.isFinite(gain) ? gain : 0;
    }

    /** The policy in words, as reports and manifests have it. */
    default String inWords() {
        return switch (this) {
            case AsMixed() -> "as mixed";
            case LoudestStemPeak _, MixHeadroom _, MixLoudness _ -> "common gain";
        };
    }
}
