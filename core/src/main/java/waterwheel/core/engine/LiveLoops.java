package waterwheel.core.engine;

import waterwheel.core.inserts.Insert;
import waterwheel.core.rack.Loop;
import waterwheel.core.session.Channel;

/** Which loops a plan runs through an interface; the others sound as they were captured. */
@FunctionalInterface
public interface LiveLoops {
    LiveLoops NONE = (channel, insert) -> false;

    boolean live(Channel channel, Insert insert);

    /** Those whose ports an interface has. */
    static LiveLoops within(int inputs, int outputs) {
        return (channel, insert) -> {
            Loop loop = insert.processor().loop();
            return loop.patched()
                    && loop.sendPort() + channel.planes() - 1 <= outputs
                    && loop.returnPort() + channel.planes() - 1 <= inputs;
        };
    }
}
