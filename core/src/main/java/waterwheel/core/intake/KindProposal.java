package waterwheel.core.intake;

import java.util.OptionalDouble;
import waterwheel.core.session.Track;
import waterwheel.core.units.NameWords;

/** Proposes what a track's levels are judged by. */
public final class KindProposal {
    private static final NameWords CUE = new NameWords("click|count(-| )?in|cue|metronome|talkback|guide");
    private static final NameWords PERCUSSIVE = new NameWords(
            "kick|bass drum|bd|snare|sn|tom|toms|hat|hats|hihat|hi-hat|ride|crash|cymbal|clap|claps|rim|drum|drums"
                    + "|bodhran|stomp|cajon|conga|congas|bongo|djembe|shaker|tambourine|tamb|perc|percussion|woodblock"
                    + "|cowbell|triangle");
    /** Struck sounds stand this far above their own RMS; sung, bowed and blown ones do not. */
    private static final double PERCUSSIVE_CREST_DB = 20;

    private KindProposal() {}

    /**
     * Proposes a kind.
     *
     * @param name the track's name
     * @param crestDb sample peak minus RMS of its source in dB, where it is known
     */
    public static Track.Kind of(String name, OptionalDouble crestDb) {
        if (CUE.in(name)) {
            return Track.Kind.CUE;
        }
        boolean struck = PERCUSSIVE.in(name) || (crestDb.isPresent() && crestDb.getAsDouble() >= PERCUSSIVE_CREST_DB);
        return struck ? Track.Kind.PERCUSSIVE : Track.Kind.SUSTAINED;
    }
}
