package waterwheel.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.filefacts.FileReport;
import waterwheel.core.work.Progress;
import waterwheel.core.work.Team;

/** Measures a stereo file (32-bit float, 48 kHz) for everything that {@code waterwheel measure} reports. */
final class MeasureBench {
    private static final int WARM_UPS = 2;

    private MeasureBench() {}

    static String run(int seconds, Path folder) throws Exception {
        Path file = folder.resolve("song.wav");
        Noise.write(file, seconds, 48_000, 1);
        String line;
        try (Team team = Team.ofAllProcessors()) {
            line = Measured.run("measure stereo file", seconds, WARM_UPS, () -> {
                try (AudioFile audio = AudioFiles.open(file)) {
                    FileReport.of(audio, -18, team, Progress.NONE);
                }
            });
        }
        Files.delete(file);
        Files.delete(folder);
        return line;
    }
}
