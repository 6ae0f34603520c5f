package waterwheel.core.songs;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.order.LineUp;

/**
 * What is delivered of songs. Levels are those of the songs as corrected; nothing else changes them.
 *
 * @param folder every song gets a folder of its own in it
 * @param channels one file a song, laid out so; empty for a file a part with their sum
 * @param lineUp the parts that are in; empty for all
 * @param overwrite whether files that were not rendered by Waterwheel may be replaced
 */
public record DeliveryRequest(
        Path folder, RenderFormat format, Optional<ChannelPlan> channels, Optional<LineUp> lineUp, boolean overwrite) {
    boolean takes(String part) {
        return lineUp.map(LineUp::parts).orElse(List.of(part)).contains(part);
    }

    /** What besides the song decides what is in the files. */
    String key() {
        return format.label() + "|" + channels.map(ChannelPlan::toString).orElse("parts") + "|"
                + lineUp.map(LineUp::parts).map(List::toString).orElse("all");
    }
}
