package waterwheel.core.engine;

import waterwheel.core.inserts.Insert;
import waterwheel.core.session.Channel;

/** Which loops a plan runs through an interface; the others sound as they were captured. */
@FunctionalInterface
public interface LiveLoops {
    LiveLoops NONE = (channel, insert) -> false;

    boolean live(Channel channel, Insert insert);

    /** Those whose ports an interface has. */
    static LiveLoops within(int inputs, int outputs) {
        return (channel, insert) -> insert.processor().loop().within(inputs, outputs, channel.planes());
    }
}
