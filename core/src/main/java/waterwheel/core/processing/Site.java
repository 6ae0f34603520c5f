package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;

/**
 * Where a processor works.
 *
 * @param sampleRateHz frames per second
 * @param planes 1 or 2
 * @param maxFrames the largest block
 * @param response of a processor that works with one; null where it has none or its file is missing
 */
public record Site(
        int sampleRateHz,
        int planes,
        int maxFrames,
        @Nullable Response response) {
    /** The same for one of the planes by itself. */
    public Site plane(int plane) {
        return new Site(sampleRateHz, 1, maxFrames, response == null ? null : response.plane(plane, planes));
    }

    /** The same for blocks of another length. */
    public Site withMaxFrames(int frames) {
        return new Site(sampleRateHz, planes, frames, response);
    }
}
