package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rack.Capture;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/**
 * What was recorded of a slot.
 *
 * @param source the recording
 * @param capture what it is of
 * @param clippedSamples how many samples came back at full scale: what was above is lost
 */
public record Captured(HardwareSlot slot, AudioSource source, Capture capture, long clippedSamples) {
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
        List<AudioSource> sources = new ArrayList<>(session.sources());
        sources.add(source);
        Session held = RackEdits.loop(
                        session.channel(slot.channel()), slot.slot(), loop -> loop.withCapture(Optional.of(capture)))
                .apply(session.withSources(sources));
        return withoutUnused(held, slot.insert(session));
    }

    private static Session withoutUnused(Session session, Insert before) {
        SourceId earlier =
                before.processor().loop().capture().map(Capture::source).orElse(null);
        boolean used = HardwareSlot.of(session).stream()
                .flatMap(slot -> slot.insert(session).processor().loop().capture().stream())
                .anyMatch(capture -> capture.source().equals(earlier));
        return earlier == null || used
                ? session
                : session.withSources(session.sources().stream()
                        .filter(source -> !source.id().equals(earlier))
                        .toList());
    }
}
