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

    /** A gain for each stem, so that its sample peak reaches a level; none for the mix and for cues. */
    record EachPeak(double peakDbfs) implements LevelPolicy {
        public EachPeak {
            peakDbfs = Ranges.checked("peakDbfs", peakDbfs, LEAST_PEAK_DBFS, MOST_PEAK_DBFS);
        }
    }

    /** A gain for each stem, so that it has an integrated loudness; none for the mix and for cues. */
    record EachLoudness(double lufs) implements LevelPolicy {
        public EachLoudness {
            lufs = Ranges.checked("lufs", lufs, LEAST_LUFS, MOST_LUFS);
        }
    }

    /**
     * The one gain in dB that the policy asks for; 0 where the level it starts from is silence.
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
                    case EachPeak _, EachLoudness _ -> 0;
                };
        return Double.isFinite(gain) ? gain : 0;
    }

    /**
     * A stem's gain in dB; the common one where its own level is silence.
     *
     * @param stem as mixed
     * @param commonDb what all get that get no gain of their own
     */
    default double gainDb(Figures stem, double commonDb) {
        double gain =
                switch (this) {
                    case EachPeak(double peakDbfs) -> peakDbfs - stem.samplePeakDbfs();
                    case EachLoudness(double lufs) -> lufs - stem.integratedLufs();
                    case AsMixed _, LoudestStemPeak _, MixHeadroom _, MixLoudness _ -> commonDb;
                };
        return Double.isFinite(gain) ? gain : commonDb;
    }

    /** The policy in words, as reports and manifests have it. */
    default String inWords() {
        return switch (this) {
            case AsMixed() -> "as mixed";
            case LoudestStemPeak _, MixHeadroom _, MixLoudness _ -> "common gain";
            case EachPeak _, EachLoudness _ -> "each to target";
        };
    }
}
