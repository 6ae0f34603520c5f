package waterwheel.desktop.controls;

import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javafx.stage.FileChooser;
import waterwheel.core.audiofile.AudioFiles;

/** The dialog that audio files are chosen in. */
public final class AudioChooser {
    /** In both cases, because a dialog may tell them apart. */
    private static final List<String> PATTERNS = AudioFiles.endings().stream()
            .flatMap(ending -> Stream.of("*" + ending, "*" + ending.toUpperCase(Locale.ROOT)))
            .toList();

    private AudioChooser() {}

    /** A dialog with a title, for audio files first and any file second. */
    public static FileChooser titled(String title) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle(title);
        chooser.getExtensionFilters()
                .addAll(
                        new FileChooser.ExtensionFilter("Audio files", PATTERNS),
                        new FileChooser.ExtensionFilter("All files", "*"));
        return chooser;
    }
}
