package waterwheel.core.instruments;

/**
 * One sample that sounds for one note. Where it stands at a frame follows from the frame alone, not from what was read
 * before, so that playing from anywhere and in blocks of any length gives the same bits.
 */
final class Voice {
    /** Within so many frames the release is computed from one to the next. */
    private static final int STRETCH = 64;

    private final float[][] sample;
    private final int frames;
    private Kernel kernel;
    private final Region.Loop loop;
    private final int loopStart;
    private final int loopEnd;
    final long start;
    private long end;
    /** When its key is let go; it may sound on. */
    private long release;

    private final double releaseFrames;
    private final double releaseLoss;
    private final double[] gains;
    /** Where pitch changes: the frame since the start, the place in the sample there, and the step from there on. */
    private final long[] turnFrames;

    private final double[] turnPlaces;
    private final double[] turnSteps;
    /** Whether it is played just as it was recorded. */
    private boolean straight;
    /** The place in the sample where its key is let go, gone round or not. */
    private double letGoPlace;

    /**
     * Makes a voice.
     *
     * @param start the song's frame at which it begins
     * @param release the song's frame at which its key is let go
     * @param releaseFrames how long it takes to fall by 60 dB then
     * @param gains linear, to the left and to the right; one for a mono output
     * @param turns frames since the start at which pitch changes; the first is 0
     * @param steps frames of the sample for one of the song, from there on
     */
    Voice(
            Sample sample,
            Region.Loop loop,
            long loopStart,
            long loopEnd,
            long start,
            long release,
            double releaseFrames,
            double[] gains,
            long[] turns,
            double[] steps) {
        this.sample = sample.planes();
        frames = sample.frames();
        this.loopStart = (int) Math.min(loopStart, Math.max(0, frames - 1));
        this.loopEnd = (int) Math.min(loopEnd <= 0 ? frames : loopEnd, frames);
        boolean goesRound =
                (loop == Region.Loop.CONTINUOUS || loop == Region.Loop.SUSTAIN) && this.loopEnd - this.loopStart >= 1;
        this.loop = goesRound || loop == Region.Loop.ONE_SHOT ? loop : Region.Loop.NONE;
        this.start = start;
        this.release = release;
        this.gains = gains;
        turnFrames = turns;
        turnSteps = steps;
        turnPlaces = new double[turns.length];
        double fastest = steps[0];
        for (int i = 1; i < turns.length; i++) {
            turnPlaces[i] = turnPlaces[i - 1] + (turns[i] - turns[i - 1]) * steps[i - 1];
            fastest = Math.max(fastest, steps[i]);
        }
        kernel = Kernel.of(fastest);
        straight = turns.length == 1 && steps[0] == 1;
        this.releaseFrames = Math.max(1, releaseFrames);
        releaseLoss = Math.pow(0.001, 1 / this.releaseFrames);
        end = ends();
        letGoPlace = place(release - start);
    }

    private long ends() {
        long fallen = release + (long) Math.ceil(1.5 * releaseFrames);
        long whole = start + framesTo(frames);
        return switch (loop) {
            case ONE_SHOT -> whole;
            case NONE -> Math.min(whole, fallen);
            case CONTINUOUS -> fallen;
            case SUSTAIN -> Math.min(fallen, release + framesTo(frames) + 1);
        };
    }

    /** The song's frame from which on it is silent. */
    long end() {
        return end;
    }

    /** Lets its key go, of one that is played by hand. For the thread that reads it, between two blocks. */
    void letGo(long frame) {
        release = frame;
        letGoPlace = place(frame - start);
        end = ends();
    }

    /**
     * Bends the pitch of one that is played by hand, from a frame on. For the thread that reads it, between two blocks.
     *
     * @param sounds of the kernel for that pitch
     * @param step frames of the sample for one of the song, from there on
     */
    void bend(long frame, double step, Kernel sounds) {
        turnPlaces[0] = place(frame - start);
        turnFrames[0] = frame - start;
        turnSteps[0] = step;
        kernel = sounds;
        straight = false;
        end = ends();
    }

    /** Frames of the sample for one of the song when it begins. */
    double firstStep() {
        return turnSteps[0];
    }

    /** After how many frames a place of the sample is passed. */
    private long framesTo(double place) {
        int i = turnPlaces.length - 1;
        while (i > 0 && turnPlaces[i] > place) {
            i--;
        }
        return turnFrames[i] + (long) Math.ceil((place - turnPlaces[i]) / turnSteps[i]);
    }

    /** Adds what it says to planes; {@code [at, at + count)} is where the song's frames from {@code first} on are. */
    void add(long first, float[][] planes, int count) {
        int from = Math.clamp(start - first, 0, count);
        int to = Math.clamp(end - first, 0, count);
        if (to <= from) {
            return;
        }
        if (loop == Region.Loop.ONE_SHOT) {
            run(first, planes, from, to, 0, 1);
            return;
        }
        int held = Math.clamp(release - first, from, to);
        run(first, planes, from, held, 0, 1);
        int at = held;
        while (at < to) {
            // From stretch to stretch the release is told anew by its formula.
            long since = first + at - release;
            long stretch = since / STRETCH;
            int until = (int) Math.min(to, release + (stretch + 1) * STRETCH - first);
            double level = Math.pow(releaseLoss, (double) stretch * STRETCH);
            for (long i = stretch * STRETCH; i < since; i++) {
                level *= releaseLoss;
            }
            run(first, planes, at, until, level, releaseLoss);
            at = until;
        }
    }

    /**
     * Adds frames of one stretch.
     *
     * @param level at the first of them; 0 for 1 throughout
     */
    private void run(long first, float[][] planes, int from, int to, double level, double loss) {
        double now = level == 0 ? 1 : level;
        int turn = turnFrames.length - 1;
        while (turn > 0 && turnFrames[turn] > first + from - start) {
            turn--;
        }
        for (int i = from; i < to; i++) {
            long since = first + i - start;
            while (turn + 1 < turnFrames.length && turnFrames[turn + 1] <= since) {
                turn++;
            }
            double place = turnPlaces[turn] + (since - turnFrames[turn]) * turnSteps[turn];
            place = looped(place, since);
            int whole = (int) place;
            double part = place - whole;
            if (sample.length == 1) {
                double value = at(sample[0], whole, part);
                for (int p = 0; p < planes.length; p++) {
                    planes[p][i] += (float) (now * gains[p] * value);
                }
            } else {
                for (int p = 0; p < planes.length; p++) {
                    planes[p][i] += (float) (now * gains[p] * at(p, planes.length, whole, part));
                }
            }
            now *= loss;
        }
    }

    /** A place in the sample, gone round as often as it takes. */
    private double looped(double place, long since) {
        if (loop == Region.Loop.CONTINUOUS && place >= loopEnd) {
            return round(place);
        }
        if (loop == Region.Loop.SUSTAIN && place >= loopEnd) {
            long held = release - start;
            if (since <= held) {
                return round(place);
            }
            double there = letGoPlace;
            return there >= loopEnd ? round(there) + (place - there) : place;
        }
        return place;
    }

    private double round(double place) {
        double length = loopEnd - loopStart;
        double over = place - loopStart;
        return loopStart + (over - length * Math.floor(over / length));
    }

    private double place(long since) {
        int turn = turnFrames.length - 1;
        while (turn > 0 && turnFrames[turn] > since) {
            turn--;
        }
        return turnPlaces[turn] + (since - turnFrames[turn]) * turnSteps[turn];
    }

    /** A stereo sample's value for a side; a mono output hears half the sum of both. */
    private double at(int plane, int planes, int whole, double part) {
        return planes == 2
                ? at(sample[plane], whole, part)
                : 0.5 * (at(sample[0], whole, part) + at(sample[1], whole, part));
    }

    private double at(float[] from, int whole, double part) {
        if (straight) {
            return whole < from.length ? from[whole] : 0;
        }
        int begin = whole - (Kernel.TAPS / 2 - 1);
        double scaled = part * Kernel.PLACES;
        int place = (int) scaled;
        float between = (float) (scaled - place);
        float[] weights = kernel.weights();
        int one = place * Kernel.TAPS;
        int other = one + Kernel.TAPS;
        boolean round = loop == Region.Loop.CONTINUOUS || loop == Region.Loop.SUSTAIN;
        float sum = 0;
        if (begin >= 0 && begin + Kernel.TAPS <= (round ? loopEnd : from.length)) {
            for (int tap = 0; tap < Kernel.TAPS; tap++) {
                float weight = weights[one + tap] + between * (weights[other + tap] - weights[one + tap]);
                sum += weight * from[begin + tap];
            }
            return sum;
        }
        for (int tap = 0; tap < Kernel.TAPS; tap++) {
            float weight = weights[one + tap] + between * (weights[other + tap] - weights[one + tap]);
            int at = begin + tap;
            // Behind the loop's end comes its beginning, as long as it goes round.
            if (round && whole < loopEnd && at >= loopEnd) {
                at = loopStart + (at - loopEnd) % (loopEnd - loopStart);
            }
            if (at >= 0 && at < from.length) {
                sum += weight * from[at];
            }
        }
        return sum;
    }
}
