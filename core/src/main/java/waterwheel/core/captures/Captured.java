package waterwheel.core.captures;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.StemCapture;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/**
 * What was recorded of a slot.
 *
 * @param source the recording
 * @param capture what it is of
 * @param stem whose share was sent; empty for the whole
 * @param clippedSamples how many samples came back at full scale: what was above is lost
 */
public record Captured(
        HardwareSlot slot, AudioSource source, Capture capture, Optional<ChannelId> stem, long clippedSamples) {
    /** Returns a session that plays all of some recordings. */
    public static Session into(Session session, List<Captured> captured) {
        Session out = session;
        for (Captured one : captured) {
            out = one.into(out);
        }
        return out;
    }

    /**
     * Returns a session that plays the recording in its slot. The earlier recording stays on disk; it leaves the list of
     * sources. A slot that is gone meanwhile changes nothing.
     */
    Session into(Session session) {
        if (!HardwareSlot.of(session).contains(slot)) {
            return session;
        }
        Session held = RackEdits.loop(session.channel(slot.channel()), slot.slot(), loop -> stem.map(
                                id -> loop.withShare(new StemCapture(id.value(), capture)))
                        .orElseGet(() -> loop.withCapture(Optional.of(capture))))
                .apply(session.withMoreSources(List.of(source)));
        return withoutUnused(held, slot.insert(session));
    }

    private static Session withoutUnused(Session session, Insert before) {
        Set<SourceId> gone =
                before.processor().loop().captures().map(Capture::source).collect(Collectors.toSet());
        session.everyChannel().stream()
                .flatMap(channel -> channel.strip().inserts().stream())
                .flatMap(insert -> insert.processor().loop().captures())
                .forEach(capture -> gone.remove(capture.source()));
        return session.withSources(session.sources().stream()
                .filter(source -> !gone.contains(source.id()))
                .toList());
    }
}
