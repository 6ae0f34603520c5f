package waterwheel.core.stems;

import java.util.List;
import java.util.Optional;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.Session;

/**
 * A finished render.
 *
 * @param swept files of the render before that this one does not have, relative to the folder; they were removed
 * @param leftBehind such files that somebody else has written since
 */
public record StemResult(
        Session session,
        StemRequest request,
        StemForecast forecast,
        List<Written> files,
        StemProof proof,
        List<String> swept,
        List<String> leftBehind) {
    public StemResult {
        files = List.copyOf(files);
        swept = List.copyOf(swept);
        leftBehind = List.copyOf(leftBehind);
    }

    /** Name of the mix's file, without its ending. */
    static final String MIX = "Mix";

    /** What a file is in the render. */
    public enum Role {
        MIX("mix"),
        STEM("stem"),
        /** A click or cue: not part of the mix. */
        CUE("cue");

        private final String label;

        Role(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /** How long every file is: the song or a stretch of it, and its tail. */
    public long frames() {
        return request.settings().frames(session);
    }

    /** What the mix measures, read back from its file. */
    public Optional<Figures> mix() {
        return files.stream()
                .filter(file -> file.role() == Role.MIX)
                .findFirst()
                .map(file -> proof.files().get(file.path()));
    }

    /**
     * A written file.
     *
     * @param path relative to the render's folder, forward slashes
     * @param gainDb the gain that its level policy gave it
     * @param mono whether it has one side, because both are the same
     * @param limitedSamples samples that had to be held at the format's limit: 0 in a clean render
     * @param key tells what it was made of
     * @param checksum SHA-256 of the file
     * @param upToDate whether it was there already, from an earlier render
     */
    public record Written(
            Role role,
            String name,
            String path,
            double gainDb,
            boolean mono,
            long limitedSamples,
            String key,
            String checksum,
            boolean upToDate) {}

    /** How many files were there already, from an earlier render. */
    public long upToDate() {
        return files.stream().filter(Written::upToDate).count();
    }
}
