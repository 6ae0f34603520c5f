package waterwheel.core.engine;

import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.processing.Rows;
import waterwheel.core.session.Clip;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Decibels;

/**
 * Reads a track's clips as one signal, each added in the order of the list. Only the clips that sound are looked at:
 * which those are moves on with the song. One thread at a time; allocates nothing after construction.
 */
final class ClipReader {
    private final Clip[] clips;
    /** Readers by clip; clips of one file share one. */
    private final AudioFile.@Nullable Reader[] readers;

    private final long[] ends;
    private final int[] fileChannels;
    private final float[] gains;
    private final @Nullable ClipShape[] shapes;
    private final int planes;

    /** Clips by where they begin. */
    private final int[] byStart;
    /** The clips that sound now, in the order of the list. */
    private final int[] sounding;

    private int soundingCount;
    private int begun;
    private long expected;

    ClipReader(Signal.Source source, Media media, int maxFrames) {
        planes = source.planes();
        int count = source.clips().size();
        clips = source.clips().toArray(Clip[]::new);
        readers = new AudioFile.Reader[count];
        ends = new long[count];
        fileChannels = new int[count];
        gains = new float[count];
        shapes = new ClipShape[count];
        sounding = new int[count];
        Map<SourceId, AudioFile.Reader> opened = new HashMap<>();
        for (int i = 0; i < count; i++) {
            Clip clip = clips[i];
            AudioFile file = media.file(clip.source()).orElse(null);
            gains[i] = (float) Decibels.toFactor(clip.gainDb());
            shapes[i] = clip.shaped() ? new ClipShape(clip) : null;
            if (file != null) {
                readers[i] = opened.computeIfAbsent(clip.source(), any -> file.reader(maxFrames));
                long held = Math.max(0, file.format().frames() - clip.offsetFrames());
                ends[i] = Math.min(clip.endFrames(), clip.startFrames() + held);
                fileChannels[i] = file.format().channels();
            }
        }
        byStart = IntStream.range(0, count)
                .filter(i -> readers[i] != null)
                .boxed()
                .sorted(Comparator.comparingLong(i -> clips[i].startFrames()))
                .mapToInt(Integer::intValue)
                .toArray();
    }

    /** Fills {@code out[plane][0 .. frames)} with the signal from a frame of the song's line on. */
    void read(long firstFrame, float[][] out, int frames) {
        moveTo(firstFrame, frames);
        float[][] scratch = Rows.single(frames);
        boolean filled = false;
        for (int s = 0; s < soundingCount; s++) {
            int i = sounding[s];
            AudioFile.Reader reader = readers[i];
            Clip clip = clips[i];
            long from = Math.max(firstFrame, clip.startFrames());
            int count = (int) (Math.min(firstFrame + frames, ends[i]) - from);
            if (reader == null || count <= 0) {
                continue;
            }
            int at = (int) (from - firstFrame);
            long inClip = from - clip.startFrames();
            long inFile = inClip + clip.offsetFrames();
            ClipShape shape = shapes[i];
            boolean asItIs = fileChannels[i] == planes && clip.side() == Clip.Side.BOTH;
            if (!filled && shape == null && count == frames && asItIs && gains[i] == 1) {
                // The usual case: one whole file. Decode straight into place.
                reader.read(inFile, out, 0, frames);
                filled = true;
                continue;
            }
            if (!filled) {
                clear(out, frames);
                filled = true;
            }
            reader.read(inFile, scratch, 0, count);
            int channels = oneSide(scratch, clip.side(), fileChannels[i], count);
            if (shape != null) {
                for (int c = 0; c < Math.min(planes, channels); c++) {
                    shape.apply(inClip, scratch[c], count);
                }
            }
            for (int p = 0; p < planes; p++) {
                add(scratch[Math.min(p, channels - 1)], gains[i], out[p], at, count);
            }
        }
        if (!filled) {
            clear(out, frames);
        }
    }

    /** Brings what sounds up to a block. */
    private void moveTo(long firstFrame, int frames) {
        if (firstFrame != expected) {
            begun = 0;
            soundingCount = 0;
        }
        expected = firstFrame + frames;
        int kept = 0;
        for (int s = 0; s < soundingCount; s++) {
            if (ends[sounding[s]] > firstFrame) {
                sounding[kept++] = sounding[s];
            }
        }
        soundingCount = kept;
        while (begun < byStart.length && clips[byStart[begun]].startFrames() < expected) {
            int clip = byStart[begun++];
            if (ends[clip] > firstFrame) {
                int place = soundingCount++;
                for (; place > 0 && sounding[place - 1] > clip; place--) {
                    sounding[place] = sounding[place - 1];
                }
                sounding[place] = clip;
            }
        }
    }

    /** Makes one side of two where only one is wanted, in place; returns how many there are then. */
    private int oneSide(float[][] scratch, Clip.Side side, int channels, int count) {
        if (channels == 2 && side == Clip.Side.RIGHT) {
            System.arraycopy(scratch[1], 0, scratch[0], 0, count);
        } else if (channels == 2 && side == Clip.Side.BOTH && planes == 1) {
            final float[] left = scratch[0];
            final float[] right = scratch[1];
            for (int i = 0; i < count; i++) {
                left[i] = (left[i] + right[i]) * 0.5f;
            }
        }
        return side == Clip.Side.BOTH && planes == 2 ? channels : 1;
    }

    private static void clear(float[][] out, int frames) {
        for (float[] plane : out) {
            Arrays.fill(plane, 0, frames, 0);
        }
    }

    private static void add(float[] from, float gain, float[] to, int at, int count) {
        for (int i = 0; i < count; i++) {
            to[at + i] += gain * from[i];
        }
    }
}
