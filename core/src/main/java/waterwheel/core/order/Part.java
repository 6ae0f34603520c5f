package waterwheel.core.order;

import java.util.OptionalDouble;

/**
 * What stems of one name have in common across songs.
 *
 * @param cue whether it is a click or a cue: heard while playing, in no sum, without a target
 * @param ownLufs the loudness that it is to have; empty for the running order's
 */
public record Part(String name, boolean cue, OptionalDouble ownLufs) {
    public Part {
        if (name.isBlank()) {
            throw new IllegalArgumentException("name: blank (expected: a name)");
        }
        ownLufs.ifPresent(Target::checkedLufs);
    }

    public Part withCue(boolean value) {
        return new Part(name, value, ownLufs);
    }

    public Part withOwnLufs(OptionalDouble value) {
        return new Part(name, cue, value);
    }
}
