package waterwheel.core.intake;

import waterwheel.core.units.NameWords;

/**
 * Words for instruments in track names. A name may hold words of several families ("bass clarinet", "guitar room"), so
 * the order counts: what is said more exactly comes first.
 */
enum Instrument {
    DRUM_KIT(
            Family.DRUMS,
            "kick|kik|bd|bass drum|snare|snr|sd|tom|toms|hat|hats|hihat|hh|ride|crash|cymbal|cymbals"
                    + "|overhead|overheads|oh|drum|drums|drumkit|kit|rimshot|brushes"),
    LOW_WINDS(Family.WINDS, "bass (clarinet|flute|recorder|sax|saxophone)"),
    LOW_BRASS(Family.BRASS, "bass (trombone|trumpet)|tuba|sousaphone"),
    BASS(Family.BASS, "bass|contrabass|sub"),
    KEYS(
            Family.KEYS,
            "piano|pianos|pno|epiano|keys|keyboard|keyboards|organ|harmonium|accordion|melodeon|concertina|synth|synths"
                    + "|pad|pads|arp|celesta|harpsichord|clavichord"),
    BRASS(
            Family.BRASS,
            "trumpet|trumpets|tpt|trombone|trombones|tbn|french horn|horn|horns|brass|cornet|flugelhorn|euphonium"),
    WINDS(
            Family.WINDS,
            "whistle|flute|flutes|piccolo|clarinet|clarinets|oboe|oboes|cor anglais|bassoon|bassoons|sax|saxes"
                    + "|saxophone|pipe|pipes|bagpipe|bagpipes|recorder|woodwind|woodwinds|winds|ocarina|harmonica"),
    GUITARS(
            Family.GUITARS,
            "guitar|guitars|gtr|gtrs|git|agtr|egtr|banjo|mandolin|mandola|bouzouki|ukulele|lute|cittern|slide"
                    + "|(pedal|lap) steel"),
    STRINGS(
            Family.STRINGS,
            "fiddle|fiddles|violin|violins|vln|viola|violas|vla|cello|celli|cellos|vc|string|strings|harp|dulcimer"
                    + "|zither|psaltery|sitar"),
    PERCUSSION(
            Family.PERCUSSION,
            "perc|percussion|bodhran|stomp|cajon|conga|congas|bongo|bongos|djembe|tabla|darbuka|shaker|shakers|maraca"
                    + "|maracas|tambourine|tamb|clap|claps|snap|snaps|woodblock|cowbell|triangle|guiro|timbales|timpani"
                    + "|vibraphone|marimba|xylophone|glockenspiel|glock|bells|chimes|gong"),
    EFFECTS(Family.EFFECTS, "fx|sfx|effect|effects|riser|risers|impact|impacts|sweep|sweeps|noise|swell|whoosh"),
    ROOM(Family.ROOM, "room|rooms|ambience|ambient|amb|hall|audience|crowd");

    private final Family family;

    @SuppressWarnings("ImmutableEnumChecker") // a compiled pattern, which does not change
    private final NameWords words;

    Instrument(Family family, String words) {
        this.family = family;
        this.words = new NameWords(words);
    }

    Family family() {
        return family;
    }

    boolean isNamedIn(String name) {
        return words.in(name);
    }
}
