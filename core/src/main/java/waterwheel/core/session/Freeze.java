package waterwheel.core.session;

import java.util.Optional;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.sources.SourceId;

/**
 * A channel's sound up to some slot, rendered once and played from then on instead of being computed.
 *
 * @param through the last slot that is in it; empty where only what is before the slots is
 * @param source the frozen audio, one of the session's files
 * @param madeOf what it was rendered from: a name for all settings and samples before
 */
public record Freeze(Optional<SlotId> through, SourceId source, String madeOf) {}
