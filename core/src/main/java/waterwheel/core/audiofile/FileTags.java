package waterwheel.core.audiofile;

import java.util.ArrayList;
import java.util.List;

/**
 * What a file says of itself: a Wave file in its broadcast extension (EBU Tech 3285), a FLAC file in its comments (RFC
 * 9639, section 8.6).
 *
 * @param song that it belongs to
 * @param title what of the song it is
 * @param note how it was made; may be empty
 * @param date in any form; may be empty
 * @param startFrame its first frame, counted from the origin of the song's line
 */
public record FileTags(String song, String title, String note, String date, long startFrame) {
    /** A file from the song's beginning of which there is nothing more to say. */
    public static FileTags of(String song, String title) {
        return new FileTags(song, title, "", "", 0);
    }

    /** As a broadcast extension has them. */
    BroadcastInfo broadcast() {
        String described =
                song + ": " + title + (note.isEmpty() ? "" : ", " + note) + (date.isEmpty() ? "" : ", " + date);
        return new BroadcastInfo(described, RenderMark.NAME, startFrame);
    }

    /** As fields of comments, {@code NAME=value}. */
    List<String> comments() {
        List<String> fields = new ArrayList<>();
        add(fields, "ALBUM", song);
        add(fields, "TITLE", title);
        add(fields, "DESCRIPTION", note);
        add(fields, "DATE", date);
        return fields;
    }

    private static void add(List<String> fields, String name, String value) {
        if (!value.isEmpty()) {
            fields.add(name + "=" + value);
        }
    }
}
