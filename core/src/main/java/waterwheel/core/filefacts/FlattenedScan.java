package waterwheel.core.filefacts;

import java.util.ArrayList;
import java.util.List;

/**
 * Finds flattened samples in one channel of a fixed-point file: runs of 3 or more equal samples at the channel's
 * highest or lowest level, at or above -0.3 dBFS. One thread at a time.
 */
final class FlattenedScan {
    /** -0.3 dBFS, linear. */
    private static final float THRESHOLD = (float) Math.pow(10, -0.3 / 20);

    private static final int SHORTEST = 3;

    private final Side high = new Side();
    private final Side low = new Side();
    private long position;

    /** Runs at the extreme level of one polarity. */
    private static final class Side {
        private float extreme = THRESHOLD;
        private final List<FlattenedRun> runs = new ArrayList<>();
        private long runs3;
        private long samples;
        private long length;
        private long start;

        void take(float magnitude, long frame) {
            if (magnitude > extreme) {
                // What looked like the wall was not it.
                extreme = magnitude;
                runs.clear();
                runs3 = 0;
                samples = 0;
                length = 0;
            }
            if (magnitude == extreme) {
                if (length++ == 0) {
                    start = frame;
                }
            } else {
                endRun();
            }
        }

        void endRun() {
            if (length >= SHORTEST) {
                runs3++;
                samples += length;
                if (runs.size() < FileFacts.MOST_RUNS_LISTED) {
                    runs.add(new FlattenedRun(start, length));
                }
            }
            length = 0;
        }
    }

    void process(float[] data, int from, int count, boolean loud) {
        if (!loud) {
            high.endRun();
            low.endRun();
        } else {
            for (int i = 0; i < count; i++) {
                float sample = data[from + i];
                high.take(Math.max(sample, 0), position + i);
                low.take(Math.max(-sample, 0), position + i);
            }
        }
        position += count;
    }

    static boolean loud(float loudest) {
        return loudest >= THRESHOLD;
    }

    void finish() {
        high.endRun();
        low.endRun();
    }

    long runs() {
        return high.runs3 + low.runs3;
    }

    long samples() {
        return high.samples + low.samples;
    }

    List<FlattenedRun> listed() {
        List<FlattenedRun> all = new ArrayList<>(high.runs);
        all.addAll(low.runs);
        return all;
    }
}
