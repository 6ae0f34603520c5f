package waterwheel.core.audiofile;

import java.nio.file.Path;

/** An open audio file of known format. Threads may share it; close it when no reader is in use. */
public interface AudioFile extends AutoCloseable {
    Path path();

    AudioFormat format();

    /**
     * Returns a reader of its own state.
     *
     * @param maxFrames the most frames that one call will ask for
     */
    Reader reader(int maxFrames);

    /**
     * Lets go of the memory that a part of the file takes where it was read. Nothing is lost, and readers may go on: what is
     * read again comes from the system's cache, or from the disk.
     *
     * @param firstFrame the first frame of the part
     * @param frames how many; all of them must lie in the file
     */
    default void release(long firstFrame, long frames) {}

    @Override
    void close();

    /** Decodes any part of the file. One thread at a time. */
    interface Reader {
        /**
         * Decodes frames into planar floats. Non-finite samples of a float file come out as 0.
         *
         * @param firstFrame the first frame wanted; all of the range must lie in the file
         * @param planes written in place, {@code planes[channel][at .. at + frames)}
         * @param frames at most the reader's maximum
         */
        void read(long firstFrame, float[][] planes, int at, int frames);

        /** How many samples this reader has met that are no numbers, and gave as 0. */
        default long nonFiniteSamples() {
            return 0;
        }
    }
}
