package waterwheel.core.intake;

import java.nio.file.Path;
import java.util.List;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.Speaker;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.filefacts.FileReport;
import waterwheel.core.metering.Figures;
import waterwheel.core.units.LevelText;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/**
 * A file of more than two channels as a whole, before it is split into tracks: the mixer is mono and stereo.
 *
 * @param speakers what each channel is made for
 * @param figures of all channels together, loudness by their places
 */
public record WideFile(Path file, List<Speaker> speakers, Figures figures) {
    private static final double NOMINAL_DBFS = -18;

    public WideFile {
        speakers = List.copyOf(speakers);
    }

    /**
     * Measures an open file.
     *
     * @throws AudioFileException if its channels are more than any layout has
     */
    static WideFile of(AudioFile audio, Progress progress) throws AudioFileException {
        FileReport report = FileReport.of(audio, NOMINAL_DBFS, Team.alone(), progress);
        return new WideFile(audio.path(), audio.format().speakers(), report.figures());
    }

    /** What it is, and how loud. */
    public String inWords() {
        String channels = String.join(" ", speakers.stream().map(Speaker::label).toList());
        return file.getFileName() + " (" + speakers.size() + " channels: " + channels + ") measures "
                + LevelText.level(figures.integratedLufs(), "LUFS") + ", true peak "
                + LevelText.level(figures.truePeakDbtp(), "dBTP") + ".";
    }
}
