package waterwheel.desktop.controls;

import java.util.List;
import javafx.stage.FileChooser;

/** The dialog that audio files are chosen in. */
public final class AudioChooser {
    private static final List<String> PATTERNS = List.of(
            "*.wav", "*.WAV", "*.wave", "*.bwf", "*.rf64", "*.aif", "*.AIF", "*.aiff", "*.aifc", "*.flac", "*.FLAC");

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
