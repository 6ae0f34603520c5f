package waterwheel.core.order;

import java.util.regex.Pattern;
import waterwheel.core.units.NameWords;
import waterwheel.core.units.PlainName;

/** Which part a stem is, by what it is called. */
final class PartNames {
    private PartNames() {}

    /** Parts that are known by words; the first that fits is meant. */
    private enum Known {
        CLICK("Click", true, "click|clicks|metronome"),
        CUES("Cues", true, "cue|cues|count in|countin|guide|guides|talkback|announcement|announcements"),
        DRUMS(
                "Drums",
                false,
                "drum|drums|drumkit|kit|kick|snare|tom|toms|hat|hats|hihat|cymbal|cymbals|overhead|overheads"
                        + "|percussion|perc|bodhran|stomp|cajon|congas|bongos|shaker|tambourine"),
        BASS("Bass", false, "bass|basses|contrabass|sub"),
        VOICES("Voices", false, "voice|voices|vocal|vocals|vox|singer|singers|choir|chorus|soprano|alto|tenor|bv|bvs"),
        GUITARS("Guitars", false, "guitar|guitars|gtr|gtrs|banjo|mandolin|bouzouki|ukulele"),
        KEYS("Keys", false, "keys|keyboard|keyboards|piano|organ|harmonium|accordion|melodeon|synth|synths|pad|pads"),
        STRINGS("Strings", false, "string|strings|fiddle|fiddles|violin|violins|viola|violas|cello|celli|harp"),
        WIND("Wind", false, "wind|winds|brass|horns|horn|whistle|flute|clarinet|sax|saxophone|trumpet|trombone|pipes"),
        TRACKS("Tracks", false, "track|tracks|playback|backing|loops|effects|fx");

        private final String part;
        private final boolean cue;

        @SuppressWarnings("ImmutableEnumChecker") // a compiled pattern, which does not change
        private final NameWords words;

        Known(String part, boolean cue, String words) {
            this.part = part;
            this.cue = cue;
            this.words = new NameWords(words);
        }
    }

    private static final Pattern MIX = Pattern.compile("(main |full |stereo |rough )?(mix|master|mixdown)");

    /** The part that a name says; the name itself where no part is known by it; none for a mix. */
    static String part(String stem) {
        String plain = PlainName.of(stem);
        if (MIX.matcher(plain).matches()) {
            return RunningOrder.LEFT_OUT;
        }
        for (Known known : Known.values()) {
            if (known.words.in(plain)) {
                return known.part;
            }
        }
        return plain.isEmpty()
                ? stem.isBlank() ? "Stem" : stem.strip()
                : Character.toUpperCase(plain.charAt(0)) + plain.substring(1);
    }

    /** Whether a part of this name is a click or a cue unless it is said otherwise. */
    static boolean cue(String part) {
        for (Known known : Known.values()) {
            if (known.words.in(PlainName.of(part))) {
                return known.cue;
            }
        }
        return false;
    }
}
