package waterwheel.desktop.app;

import java.io.IOException;
import java.io.Reader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import net.harawata.appdirs.AppDirsFactory;
import waterwheel.core.session.PanLaw;
import waterwheel.core.work.AsideFile;

/**
 * What the application remembers from one start to the next, in the place where the system keeps settings. Losing it
 * loses no work, so that a settings file that cannot be read or written is no error.
 */
public final class Settings {
    private static final int MOST_RECENT = 8;

    private final Path file;
    private final Properties values = new Properties();

    private Settings(Path file) {
        this.file = file;
    }

    /** The user's settings. */
    public static Settings ofUser() {
        String place = System.getProperty("waterwheel.settings");
        return in(
                place != null
                        ? Path.of(place)
                        : Path.of(AppDirsFactory.getInstance().getUserConfigDir("Waterwheel", null, null)));
    }

    /** Settings kept in a folder. */
    public static Settings in(Path folder) {
        Settings settings = new Settings(folder.resolve("settings.properties"));
        if (Files.isReadable(settings.file)) {
            try (Reader reader = Files.newBufferedReader(settings.file, StandardCharsets.UTF_8)) {
                settings.values.load(reader);
            } catch (IOException | IllegalArgumentException e) {
                settings.values.clear();
            }
        }
        return settings;
    }

    /** Whether the light theme is wanted; the dark one otherwise. */
    public boolean light() {
        return Boolean.parseBoolean(values.getProperty("theme.light"));
    }

    public void setLight(boolean light) {
        values.setProperty("theme.light", String.valueOf(light));
        store();
    }

    /** How large text and controls are, in percent: one of {@link Sized#PERCENT}. */
    public int percent() {
        String set = values.getProperty("size.percent");
        return Sized.PERCENT.stream()
                .filter(one -> String.valueOf(one).equals(set))
                .findFirst()
                .orElse(100);
    }

    public void setPercent(int percent) {
        values.setProperty("size.percent", String.valueOf(percent));
        store();
    }

    /** The pan law that the user works under by choice; empty where none was said. */
    public Optional<PanLaw> ownPanLaw() {
        String name = values.getProperty("panLaw");
        return Arrays.stream(PanLaw.values())
                .filter(law -> law.name().equals(name))
                .findFirst();
    }

    public void setOwnPanLaw(PanLaw law) {
        values.setProperty("panLaw", law.name());
        store();
    }

    /** Folders of the sessions opened last, newest first; those that are gone are left out. */
    public List<Path> recent() {
        List<Path> found = new ArrayList<>();
        for (int i = 0; i < MOST_RECENT; i++) {
            String path = values.getProperty("recent." + i);
            if (path != null && Files.isDirectory(Path.of(path))) {
                found.add(Path.of(path));
            }
        }
        return found;
    }

    /** Puts a session's folder first among the recent ones. */
    public void addRecent(Path folder) {
        Path absolute = folder.toAbsolutePath().normalize();
        List<Path> all = new ArrayList<>(recent());
        all.remove(absolute);
        all.addFirst(absolute);
        for (int i = 0; i < MOST_RECENT; i++) {
            values.remove("recent." + i);
            if (i < all.size()) {
                values.setProperty("recent." + i, all.get(i).toString());
            }
        }
        store();
    }

    private void store() {
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            AsideFile.write(file, path -> {
                try (Writer writer = Files.newBufferedWriter(path, StandardCharsets.UTF_8)) {
                    values.store(writer, null);
                }
            });
        } catch (IOException e) {
            System.Logger log = System.getLogger(Settings.class.getName());
            log.log(System.Logger.Level.DEBUG, "Settings were not stored", e);
        }
    }
}
