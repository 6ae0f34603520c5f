package waterwheel.core.intake;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.units.NameWords;

/**
 * A submix bus that a session lacks, proposed from the names and kinds of tracks that feed the main bus directly.
 *
 * @param name the bus's name
 * @param members tracks, in the session's order; two or more
 */
public record BusProposal(String name, List<ChannelId> members) {
    /** Families of instruments that are mixed together, in the order in which they are looked for. */
    private enum Family {
        VOICES(
                "Voices",
                "voice|voices|vocal|vocals|vox|singer|choir|chorus|backing|lead vox|bv|bvs|soprano|alto|tenor"),
        PERCUSSION(
                "Percussion",
                "kick|snare|tom|toms|hat|hats|hihat|ride|crash|cymbal|cymbals|overhead|overheads|clap|claps|drum|drums"
                        + "|bodhran|stomp|cajon|conga|congas|bongo|bongos|djembe|shaker|tambourine|perc|percussion"
                        + "|woodblock|cowbell|triangle"),
        BASS("Bass", "bass|double bass|contrabass|sub|tuba"),
        STRINGS(
                "Strings",
                "fiddle|fiddles|violin|violins|viola|violas|cello|celli|strings|guitar|guitars|gtr|banjo|mandolin"
                        + "|bouzouki|harp|dulcimer|ukulele|lute|zither"),
        WIND(
                "Wind",
                "whistle|flute|clarinet|oboe|bassoon|sax|saxophone|trumpet|trombone|horn|horns|brass|pipe|pipes"
                        + "|recorder"),
        KEYS("Keys", "piano|keys|keyboard|organ|harmonium|accordion|melodeon|concertina|synth|pad|celesta|harpsichord"),
        ROOM("Room", "room|ambience|ambient|amb|hall|audience");

        private final String bus;

        @SuppressWarnings("ImmutableEnumChecker") // a compiled pattern, which does not change
        private final NameWords words;

        Family(String bus, String words) {
            this.bus = bus;
            this.words = new NameWords(words);
        }
    }

    public BusProposal {
        members = List.copyOf(members);
    }

    /** The buses to propose, in the order of the families; empty where every track has its bus. */
    public static List<BusProposal> of(Session session) {
        Map<Family, List<ChannelId>> found = new EnumMap<>(Family.class);
        for (Track track : session.tracks()) {
            Family family = family(track);
            if (family != null && track.strip().output().equals(Output.to(session.mainId())) && !track.cue()) {
                found.computeIfAbsent(family, any -> new ArrayList<>()).add(track.id());
            }
        }
        List<BusProposal> proposals = new ArrayList<>();
        found.forEach((family, members) -> {
            if (members.size() > 1) {
                proposals.add(new BusProposal(family.bus, members));
            }
        });
        return proposals;
    }

    private static @Nullable Family family(Track track) {
        for (Family family : Family.values()) {
            if (family.words.in(track.name())) {
                return family;
            }
        }
        return track.kind() == Track.Kind.PERCUSSIVE ? Family.PERCUSSION : null;
    }

    /** Makes the proposed buses, in one step. */
    public static Edit accept(Session session, List<BusProposal> proposals) {
        return Edit.together(
                "New buses",
                proposals.stream()
                        .map(one -> FlowEdits.busAround(
                                one.members().stream().map(session::channel).toList(), one.name()))
                        .toList());
    }
}
