package waterwheel.core.intake;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;

/**
 * Two mono tracks that look like the sides of one stereo recording.
 *
 * @param name what the stereo track would be called
 */
public record StereoPair(Track left, Track right, String name) {
    private static final Pattern SIDE =
            Pattern.compile("^(.*?)(?:[ ._-]+(L|R)|[ ._-]*(left|right|Left|Right|LEFT|RIGHT))$");

    /** The pairs of a session: names alike but for their side, and one whole file each, of one length and place. */
    public static List<StereoPair> of(Session session) {
        Map<String, Track> lefts = new LinkedHashMap<>();
        Map<String, Track> rights = new LinkedHashMap<>();
        for (Track track : session.tracks()) {
            Matcher side = SIDE.matcher(track.name());
            if (track.planes() == 1
                    && track.clips().size() == 1
                    && side.matches()
                    && !side.group(1).isBlank()) {
                String word = side.group(2) != null ? side.group(2) : side.group(3);
                boolean left = word.toLowerCase(Locale.ROOT).startsWith("l");
                (left ? lefts : rights).putIfAbsent(side.group(1).strip(), track);
            }
        }
        List<StereoPair> pairs = new ArrayList<>();
        lefts.forEach((name, left) -> {
            Track right = rights.get(name);
            if (right != null && alike(session, left, right)) {
                pairs.add(new StereoPair(left, right, name));
            }
        });
        return pairs;
    }

    private static boolean alike(Session session, Track left, Track right) {
        Clip one = left.clips().getFirst();
        Clip other = right.clips().getFirst();
        AudioSource oneFile = session.source(one.source());
        AudioSource otherFile = session.source(other.source());
        return oneFile.frames() == otherFile.frames()
                && oneFile.channels() == 1
                && otherFile.channels() == 1
                && one.startFrames() == other.startFrames()
                && one.offsetFrames() == 0
                && other.offsetFrames() == 0
                && one.lengthFrames() == other.lengthFrames()
                && one.gainDb() == other.gainDb();
    }
}
