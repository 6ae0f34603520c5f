package waterwheel.core.intake;

import java.text.Normalizer;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.regex.Pattern;
import waterwheel.core.session.Track;

/** Proposes what a track's levels are judged by. */
public final class KindProposal {
    private static final Pattern CUE = words("click|count(-| )?in|cue|metronome|talkback|guide");
    private static final Pattern PERCUSSIVE = words(
            "kick|bass drum|bd|snare|sn|tom|toms|hat|hats|hihat|hi-hat|ride|crash|cymbal|clap|claps|rim|drum|drums"
                    + "|bodhran|stomp|cajon|conga|congas|bongo|djembe|shaker|tambourine|tamb|perc|percussion|woodblock"
                    + "|cowbell|triangle");
    /** Struck sounds stand this far above their own RMS; sung, bowed and blown ones do not. */
    private static final double PERCUSSIVE_CREST_DB = 20;

    private KindProposal() {}

    private static Pattern words(String alternatives) {
        return Pattern.compile("(^|[^a-z])(" + alternatives + ")([^a-z]|$)");
    }

    /**
     * Proposes a kind.
     *
     * @param name the track's name
     * @param crestDb sample peak minus RMS of its source in dB, where it is known
     */
    public static Track.Kind of(String name, OptionalDouble crestDb) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT);
        if (CUE.matcher(plain).find()) {
            return Track.Kind.CUE;
        }
        boolean struck = PERCUSSIVE.matcher(plain).find()
                || (crestDb.isPresent() && crestDb.getAsDouble() >= PERCUSSIVE_CREST_DB);
        return struck ? Track.Kind.PERCUSSIVE : Track.Kind.SUSTAINED;
    }
}
