package waterwheel.core.engine;

import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Listen;

/**
 * Computes what is heard of a track that an input feeds. What is heard or not heard any more comes and goes within 240
 * frames. One thread at a time; allocates nothing after construction.
 */
final class ListenedTask implements BlockTask {
    private static final float STEP = 1f / MotionReader.CROSSING;

    private final ChannelId track;
    private final PortBuffers ports;
    private final float[][] recorded;
    private final float[][] incoming;
    private final float[][] out;
    private Listen listen;
    private float recordedGain = -1;
    private float incomingGain;

    ListenedTask(
            ChannelId track, Listen listen, PortBuffers ports, float[][] recorded, float[][] incoming, float[][] out) {
        this.track = track;
        this.listen = listen;
        this.ports = ports;
        this.recorded = recorded;
        this.incoming = incoming;
        this.out = out;
    }

    /** Listens at other times from the next block on. */
    void use(Listen other) {
        listen = other;
    }

    @Override
    public void run(long firstFrame, int frames) {
        float playsBack = ports.playsBack(track) ? 1 : 0;
        float hears = ports.hears(track, listen) ? 1 : 0;
        if (recordedGain < 0) {
            recordedGain = playsBack;
            incomingGain = hears;
        }
        float fromRecorded = recordedGain;
        float fromIncoming = incomingGain;
        for (int p = 0; p < out.length; p++) {
            recordedGain = fromRecorded;
            incomingGain = fromIncoming;
            for (int i = 0; i < frames; i++) {
                recordedGain = toward(recordedGain, playsBack);
                incomingGain = toward(incomingGain, hears);
                out[p][i] = recordedGain * recorded[p][i] + incomingGain * incoming[p][i];
            }
        }
    }

    private static float toward(float gain, float goal) {
        return gain < goal ? Math.min(goal, gain + STEP) : Math.max(goal, gain - STEP);
    }
}
