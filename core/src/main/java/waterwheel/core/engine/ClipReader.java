package waterwheel.core.engine;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.session.Clip;
import waterwheel.core.units.Decibels;

/** Reads a track's clips as one signal. One thread at a time; allocates nothing after construction. */
final class ClipReader {
    private final Clip[] clips;
    private final AudioFile.@Nullable Reader[] readers;
    private final long[] fileFrames;
    private final int[] fileChannels;
    private final float[] gains;
    private final @Nullable ClipShape[] shapes;
    private final float[][] scratch;
    private final int planes;

    ClipReader(Signal.Source source, Media media, int maxFrames) {
        planes = source.planes();
        int count = source.clips().size();
        clips = source.clips().toArray(Clip[]::new);
        readers = new AudioFile.Reader[count];
        fileFrames = new long[count];
        fileChannels = new int[count];
        gains = new float[count];
        shapes = new ClipShape[count];
        scratch = new float[2][maxFrames];
        for (int i = 0; i < count; i++) {
            AudioFile file = media.file(clips[i].source()).orElse(null);
            gains[i] = (float) Decibels.toFactor(clips[i].gainDb());
            shapes[i] = clips[i].shaped() ? new ClipShape(clips[i]) : null;
            if (file != null) {
                readers[i] = file.reader(maxFrames);
                fileFrames[i] = file.format().frames();
                fileChannels[i] = file.format().channels();
            }
        }
    }

    /** Fills {@code out[plane][0 .. frames)} with the signal from a frame of the song's line on. */
    void read(long firstFrame, float[][] out, int frames) {
        boolean filled = false;
        for (int i = 0; i < clips.length; i++) {
            AudioFile.Reader reader = readers[i];
            if (reader == null) {
                continue;
            }
            Clip clip = clips[i];
            long end =
                    Math.min(clip.endFrames(), clip.startFrames() + Math.max(0, fileFrames[i] - clip.offsetFrames()));
            long from = Math.max(firstFrame, clip.startFrames());
            int count = (int) (Math.min(firstFrame + frames, end) - from);
            if (count <= 0) {
                continue;
            }
            int at = (int) (from - firstFrame);
            long inClip = from - clip.startFrames();
            long inFile = inClip + clip.offsetFrames();
            ClipShape shape = shapes[i];
            if (!filled && shape == null && count == frames && fileChannels[i] == planes && gains[i] == 1) {
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
            if (shape != null) {
                for (int c = 0; c < Math.min(planes, fileChannels[i]); c++) {
                    shape.apply(inClip, scratch[c], count);
                }
            }
            for (int p = 0; p < planes; p++) {
                add(scratch[Math.min(p, fileChannels[i] - 1)], gains[i], out[p], at, count);
            }
        }
        if (!filled) {
            clear(out, frames);
        }
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
