package waterwheel.core.intake;

import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import waterwheel.core.session.Track;
import waterwheel.core.units.NameWords;

/**
 * Families of instruments that are mixed together, in the order in which their buses are proposed; and the larger family
 * that two of them make where both exist.
 */
enum Family {
    DRUMS("Drums", Larger.RHYTHM),
    PERCUSSION("Percussion", Larger.RHYTHM),
    BASS("Bass", null),
    GUITARS("Guitars", null),
    KEYS("Keys", null),
    STRINGS("Strings", null),
    WINDS("Winds", Larger.WINDS_AND_BRASS),
    BRASS("Brass", Larger.WINDS_AND_BRASS),
    LEAD_VOICE("Lead voice", Larger.VOICES),
    BACKING_VOICES("Backing voices", Larger.VOICES),
    EFFECTS("Effects", null),
    ROOM("Room", null);

    /** What two families make together. */
    enum Larger {
        RHYTHM("Drums and percussion"),
        WINDS_AND_BRASS("Winds and brass"),
        VOICES("Voices");

        private final String bus;

        Larger(String bus) {
            this.bus = bus;
        }

        String bus() {
            return bus;
        }
    }

    private static final NameWords SUNG =
            new NameWords("voice|voices|vocal|vocals|vox|singer|singers|sung|bv|bvs|bgv|bgvs|choir|ooh|oohs|aah|aahs");
    private static final NameWords BEHIND = new NameWords("bv|bvs|bgv|bgvs|choir|chorus|backing|backings|background"
            + "|harmony|harmonies|gang|ooh|oohs|aah|aahs|soprano|sopranos|alto|altos|tenor|tenors|baritone|baritones");
    private static final NameWords LEAD = new NameWords("lead|main");

    private final String bus;
    private final @Nullable Larger larger;

    Family(String bus, @Nullable Larger larger) {
        this.bus = bus;
        this.larger = larger;
    }

    String bus() {
        return bus;
    }

    Optional<Larger> larger() {
        return Optional.ofNullable(larger);
    }

    /** The family that a track belongs to by its name, or by its kind where the name says nothing; else nothing. */
    static Optional<Family> of(Track track) {
        String name = track.name();
        if (SUNG.in(name)) {
            return Optional.of(BEHIND.in(name) ? BACKING_VOICES : LEAD_VOICE);
        }
        Optional<Family> found = Stream.of(Instrument.values())
                .filter(instrument -> instrument.isNamedIn(name))
                .map(Instrument::family)
                .findFirst();
        if (found.isPresent()) {
            return found;
        }
        if (BEHIND.in(name)) {
            return Optional.of(BACKING_VOICES);
        }
        if (LEAD.in(name)) {
            return Optional.of(LEAD_VOICE);
        }
        return track.kind() == Track.Kind.PERCUSSIVE ? Optional.of(PERCUSSION) : Optional.empty();
    }
}
