package waterwheel.core.processing;

import org.jspecify.annotations.Nullable;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;

/** Starts processors. */
public final class Effects {
    private Effects() {}

    /**
     * Starts what is in a slot, with its mix and its output gain; the input gain is applied before it.
     *
     * @param planes 1 or 2
     * @param maxFrames the largest block
     * @param response of a processor that works with one; null where it has none or its file is missing
     */
    public static Effect start(
            Insert insert, int sampleRateHz, int planes, int maxFrames, @Nullable Response response) {
        Effect effect = start(insert.processor(), sampleRateHz, planes, maxFrames, response);
        boolean plain = insert.mix() == 1 && insert.outputDb() == 0;
        return plain ? effect : new MixedEffect(effect, insert, planes, maxFrames);
    }

    private static Effect start(Processor processor, int rate, int planes, int maxFrames, @Nullable Response response) {
        return switch (processor.kind()) {
            case EQUALISER -> new EqualiserEffect(processor, rate);
            case COMPRESSOR -> new CompressorEffect(processor, rate, planes, maxFrames);
            case MULTIBAND -> new MultibandEffect(processor, rate, planes, maxFrames);
            case GATE -> new GateEffect(processor, rate, planes, maxFrames);
            case LIMITER -> new LimiterEffect(processor, rate, planes, maxFrames);
            case SATURATOR -> new SaturatorEffect(processor, planes, maxFrames);
            case STEREO -> new StereoEffect(processor, rate, planes, maxFrames);
            case DELAY -> new DelayEffect(processor, rate, planes);
            case REVERB -> new ReverbEffect(processor, rate);
            case CONVOLUTION -> new ConvolutionEffect(processor, response, rate, planes, maxFrames);
            case TONE -> new ToneEffect(processor, rate);
        };
    }

    /** By how many frames a processor with these settings is late. */
    public static int latencyFrames(Processor processor, int sampleRateHz) {
        return switch (processor.kind()) {
            case LIMITER -> LimiterEffect.latencyFrames(processor, sampleRateHz);
            case SATURATOR -> Oversampler.LATENCY_FRAMES;
            case STEREO -> StereoEffect.latencyFrames(processor, sampleRateHz);
            case EQUALISER, COMPRESSOR, MULTIBAND, GATE, DELAY, REVERB, CONVOLUTION, TONE -> 0;
        };
    }
}
