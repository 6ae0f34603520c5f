package waterwheel.core.order;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import waterwheel.core.units.PlainName;

/**
 * Songs that are to be equally loud, part by part.
 *
 * @param parts those whose settings are known, in the order of the screen; a part that a song has beside these is as
 *     its name says, and stands behind them
 * @param names which part a stem is, by its plain name (see {@link PlainName}), where its name alone does not
 *     say; {@link #LEFT_OUT} for none
 * @param lineUps sets of parts that deliveries choose from
 */
public record RunningOrder(
        String title,
        Target target,
        List<Part> parts,
        Map<String, String> names,
        List<Song> songs,
        List<LineUp> lineUps) {
    /** The part of a stem that is in none, such as the mix that lies beside its stems. */
    public static final String LEFT_OUT = "";

    public RunningOrder {
        if (title.isBlank()) {
            throw new IllegalArgumentException("title: blank (expected: a title)");
        }
        parts = List.copyOf(parts);
        names = Map.copyOf(names);
        songs = List.copyOf(songs);
        lineUps = List.copyOf(lineUps);
        refuseTwice("parts", parts.stream().map(Part::name));
        refuseTwice("songs", songs.stream().map(song -> song.id().value()));
        refuseTwice("lineUps", lineUps.stream().map(LineUp::name));
    }

    private static void refuseTwice(String what, Stream<String> names) {
        List<String> all = names.toList();
        all.stream()
                .filter(name -> all.indexOf(name) != all.lastIndexOf(name))
                .findFirst()
                .ifPresent(name -> {
                    throw new IllegalArgumentException(what + ": '" + name + "' twice (expected: unlike names)");
                });
    }

    /** One without songs. */
    public static RunningOrder empty(String title) {
        return new RunningOrder(title, Target.USUAL, List.of(), Map.of(), List.of(), List.of());
    }

    /** Which part a stem is: as was said, else as its name says; {@link #LEFT_OUT} for none. */
    public String partOf(String stem) {
        String said = names.get(PlainName.of(stem));
        return said == null ? PartNames.part(stem) : said;
    }

    /** A part's settings. */
    public Part part(String name) {
        return parts.stream()
                .filter(part -> part.name().equals(name))
                .findFirst()
                .orElseGet(() -> new Part(name, PartNames.cue(name), OptionalDouble.empty()));
    }

    /** The loudness that a part is to have, in LUFS. */
    public double targetLufs(String part) {
        return part(part).ownLufs().orElse(target.lufs());
    }

    public Optional<Song> find(SongId id) {
        return songs.stream().filter(song -> song.id().equals(id)).findFirst();
    }

    /**
     * Returns a song by its id.
     *
     * @throws IllegalArgumentException if there is none
     */
    public Song song(SongId id) {
        return find(id).orElseThrow(
                        () -> new IllegalArgumentException("id: '" + id + "' (expected: the id of a song)"));
    }

    public Optional<LineUp> lineUp(String name) {
        return lineUps.stream().filter(one -> one.name().equals(name)).findFirst();
    }

    /** Returns it with another song at the end, which gets an id of its own. */
    public RunningOrder withSong(String path, String songTitle) {
        int number = songs.size() + 1;
        while (find(new SongId("s" + number)).isPresent()) {
            number++;
        }
        List<Song> more = new ArrayList<>(songs);
        more.add(new Song(new SongId("s" + number), path, songTitle));
        return withSongs(more);
    }

    public RunningOrder withSongs(List<Song> value) {
        return new RunningOrder(title, target, parts, names, value, lineUps);
    }

    /** Returns it with one song changed; unchanged where it is gone. */
    public RunningOrder withSong(SongId id, UnaryOperator<Song> change) {
        return withSongs(songs.stream()
                .map(song -> song.id().equals(id) ? change.apply(song) : song)
                .toList());
    }

    public RunningOrder withoutSong(SongId id) {
        return withSongs(songs.stream().filter(song -> !song.id().equals(id)).toList());
    }

    public RunningOrder withTarget(Target value) {
        return new RunningOrder(title, value, parts, names, songs, lineUps);
    }

    /** Returns it with a part's settings in place of those it had. */
    public RunningOrder with(Part part) {
        List<Part> changed = new ArrayList<>(parts);
        int at = parts.stream().map(Part::name).toList().indexOf(part.name());
        if (at < 0) {
            changed.add(part);
        } else {
            changed.set(at, part);
        }
        return withParts(changed);
    }

    public RunningOrder withParts(List<Part> value) {
        return new RunningOrder(title, target, value, names, songs, lineUps);
    }

    /** Returns it with the part said that stems of a name are, in all songs; {@link #LEFT_OUT} for none. */
    public RunningOrder withName(String stem, String part) {
        Map<String, String> changed = new LinkedHashMap<>(names);
        changed.put(PlainName.of(stem), part);
        return new RunningOrder(title, target, parts, changed, songs, lineUps);
    }

    /** Returns it with stems of a name being what their name says again. */
    public RunningOrder withoutName(String stem) {
        Map<String, String> changed = new LinkedHashMap<>(names);
        changed.remove(PlainName.of(stem));
        return new RunningOrder(title, target, parts, changed, songs, lineUps);
    }

    /** Returns it with a line-up in place of the one of its name. */
    public RunningOrder with(LineUp lineUp) {
        List<LineUp> changed = new ArrayList<>(lineUps);
        changed.removeIf(one -> one.name().equals(lineUp.name()));
        changed.add(lineUp);
        return new RunningOrder(title, target, parts, names, songs, changed);
    }

    public RunningOrder withoutLineUp(String name) {
        List<LineUp> changed = new ArrayList<>(lineUps);
        changed.removeIf(one -> one.name().equals(name));
        return new RunningOrder(title, target, parts, names, songs, changed);
    }
}
