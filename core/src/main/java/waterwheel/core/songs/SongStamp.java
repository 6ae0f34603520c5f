package waterwheel.core.songs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.TreeMap;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.units.Sha256;

/** What tells a state of a song from others, so that figures are never taken for those of another state. */
final class SongStamp {
    /** Changes when figures would be reckoned otherwise. */
    private static final String VERSION = "2";

    private SongStamp() {}

    /** Of what a song's levels hang on: its files, what part each is in, and what corrects them. */
    static String ofLevels(Song song, SongFiles files, RunningOrder order) {
        StringBuilder text = new StringBuilder(VERSION);
        for (SongFiles.Stem stem : files.stems()) {
            text.append('\n').append(ofFile(stem.file())).append('|').append(stem.part());
            text.append('|').append(order.part(stem.part()).cue());
        }
        new TreeMap<>(song.corrections()).forEach((part, correction) -> text.append('\n')
                .append(part)
                .append('|')
                .append(correction.gainDb())
                .append('|')
                .append(correction
                        .equaliser()
                        .map(one -> one.values().toString())
                        .orElse("")));
        song.sections().forEach(section -> text.append('\n').append(section));
        return hex(text.toString());
    }

    /** Of what a session sounds like: its file and every file that it reads. */
    static String ofSession(Path folder, Session session) {
        StringBuilder text = new StringBuilder(VERSION);
        text.append('\n').append(ofFile(folder.resolve(SessionFolder.SESSION_FILE)));
        for (AudioSource source : session.sources()) {
            text.append('\n').append(ofFile(folder.resolve(source.path())));
        }
        return hex(text.toString());
    }

    /** Of a file's bytes, as far as the disk tells. */
    static String ofFile(Path file) {
        try {
            return file.toAbsolutePath() + "|" + Files.size(file) + "|"
                    + Files.getLastModifiedTime(file).toMillis();
        } catch (IOException e) {
            return file.toAbsolutePath() + "|missing";
        }
    }

    static String hex(String text) {
        return HexFormat.of().formatHex(Sha256.start().digest(text.getBytes(StandardCharsets.UTF_8)));
    }
}
