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
        @Nullable Response response) {}
