package waterwheel.core.instruments;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import waterwheel.core.audiofile.SampleLoop;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;
import waterwheel.core.units.PlainText;

/**
 * Reads a map of samples in the open SFZ text format, as far as a mix workbench needs it: {@code sample}, {@code key},
 * {@code lokey}, {@code hikey}, {@code lovel}, {@code hivel}, {@code pitch_keycenter}, {@code tune}, {@code transpose},
 * {@code loop_mode}, {@code loop_start}, {@code loop_end}, {@code ampeg_release}, {@code volume}, {@code pan}, {@code
 * seq_length}, {@code seq_position}, {@code output} and {@code default_path}, in {@code control}, {@code global}, {@code
 * master}, {@code group} and {@code region}. What else it says is told of once each, and passed over.
 */
public final class SampleMapFile {
    static final SourceId UNNAMED = new SourceId("sample");

    private static final long LARGEST = 4L << 20;
    private static final double USUAL_RELEASE = 0.05;
    private static final Pattern TOKEN =
            Pattern.compile("<([A-Za-z]+)>|([A-Za-z0-9_]+)=(.*?)(?=\\s+[A-Za-z0-9_]+=|\\s*<[A-Za-z]+>|\\s*$)");
    private static final Set<String> KNOWN = Set.of(
            "sample",
            "key",
            "lokey",
            "hikey",
            "lovel",
            "hivel",
            "pitch_keycenter",
            "tune",
            "transpose",
            "loop_mode",
            "loopmode",
            "loop_start",
            "loopstart",
            "loop_end",
            "loopend",
            "ampeg_release",
            "volume",
            "pan",
            "seq_length",
            "seq_position",
            "output",
            "default_path");

    private final Path file;
    private final List<SampleMap.Entry> entries = new ArrayList<>();
    private final Set<String> told = new LinkedHashSet<>();
    /** What the headers around the present one say, the outermost first. */
    private final Map<String, Map<String, String>> levels = new LinkedHashMap<>();

    private final Map<Path, Optional<SampleLoop>> loops = new HashMap<>();
    private String header = "";
    private Map<String, String> now = new HashMap<>();

    private SampleMapFile(Path file) {
        this.file = file;
    }

    /**
     * Reads a map. Whether its samples are there is looked at when they are taken in.
     *
     * @throws NotesFileException if it cannot be read, or names no sample
     */
    public static SampleMap read(Path file) throws NotesFileException {
        try {
            if (Files.size(file) > LARGEST) {
                throw new NotesFileException(file, "is larger than any map of samples.", "Choose another.", null);
            }
            String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
            return new SampleMapFile(file).read(text);
        } catch (IOException e) {
            throw new NotesFileException(file, "cannot be read.", "Check that it is there and may be read.", e);
        }
    }

    private SampleMap read(String text) throws NotesFileException {
        for (String line : text.lines().toList()) {
            String plain = line.replaceAll("//.*$", "").strip();
            if (plain.startsWith("#")) {
                told.add("'" + PlainText.of(plain.split("\\s+", 2)[0], 40) + "' is not known here.");
                continue;
            }
            Matcher matcher = TOKEN.matcher(plain);
            while (matcher.find()) {
                if (matcher.group(1) != null) {
                    begin(matcher.group(1).toLowerCase(Locale.ROOT));
                } else {
                    String name = matcher.group(2).toLowerCase(Locale.ROOT);
                    if (!KNOWN.contains(name)) {
                        told.add("'" + PlainText.of(name, 40) + "' is not known here.");
                    }
                    now.put(name, matcher.group(3).strip());
                }
            }
        }
        begin("");
        if (entries.isEmpty()) {
            throw new NotesFileException(file, "names no sample.", "Choose a map of samples.", null);
        }
        String name = FileStem.of(file);
        return new SampleMap(PlainText.of(name.isBlank() ? "Samples" : name, 60), entries, List.copyOf(told));
    }

    /** Ends the header before, and begins another; what a wider one says holds for the narrower ones in it. */
    private void begin(String next) throws NotesFileException {
        if (header.equals("region")) {
            addRegion();
        } else if (!header.isEmpty()) {
            levels.put(header, now);
        }
        switch (next) {
            case "global" -> levels.keySet().removeIf(level -> !level.equals("control"));
            case "master" -> levels.keySet().removeIf(level -> level.equals("group") || level.equals("master"));
            case "group" -> levels.remove("group");
            case "region", "control", "" -> {}
            default -> told.add("<" + PlainText.of(next, 40) + "> is not known here.");
        }
        header = next;
        now = new HashMap<>();
    }

    private void addRegion() throws NotesFileException {
        Map<String, String> all = new HashMap<>();
        for (String level : List.of("control", "global", "master", "group")) {
            all.putAll(levels.getOrDefault(level, Map.of()));
        }
        all.putAll(now);
        String sample = all.getOrDefault("sample", "");
        if (sample.isEmpty() || sample.startsWith("*")) {
            if (!sample.isEmpty()) {
                told.add("The built-in sound '" + PlainText.of(sample, 40) + "' is not known here.");
            }
            return;
        }
        if (entries.size() == SampleMap.MOST) {
            throw new NotesFileException(
                    file, "has more than " + SampleMap.MOST + " regions.", "Choose a smaller map.", null);
        }
        try {
            Path path = file.resolveSibling((all.getOrDefault("default_path", "") + sample).replace('\\', '/'));
            Optional<SampleLoop> noted = loops.computeIfAbsent(path, SampleLoop::of);
            entries.add(new SampleMap.Entry(path, region(all, noted)));
        } catch (InvalidPathException e) {
            told.add("'" + PlainText.of(sample, 60) + "' is no name of a file.");
        } catch (IllegalArgumentException e) {
            told.add("A region of '" + PlainText.of(sample, 60) + "' was left out: " + e.getMessage() + ".");
        }
    }

    /** @param noted the loop that the sample itself notes; it holds where the map has none of its own */
    private Region region(Map<String, String> all, Optional<SampleLoop> noted) {
        int low = key(all, "lokey", key(all, "key", 0));
        int high = key(all, "hikey", key(all, "key", 127));
        int centre = key(all, "pitch_keycenter", key(all, "key", 60));
        int turns = (int) number(all, "seq_length", 1);
        return new Region(
                UNNAMED,
                low,
                high,
                (int) number(all, "lovel", 0),
                (int) number(all, "hivel", 127),
                centre,
                number(all, "tune", 0) + 100 * number(all, "transpose", 0),
                loop(all, noted.isPresent() ? "loop_continuous" : "no_loop"),
                (long) number(
                        all,
                        "loop_start",
                        number(all, "loopstart", noted.map(SampleLoop::first).orElse(0L))),
                // The format's loop end is the last frame that is played.
                all.containsKey("loop_end") || all.containsKey("loopend")
                        ? (long) number(all, "loop_end", number(all, "loopend", 0)) + 1
                        : noted.map(SampleLoop::end).orElse(0L),
                number(all, "ampeg_release", USUAL_RELEASE),
                number(all, "volume", 0),
                number(all, "pan", 0) / 100,
                (int) number(all, "seq_position", 1),
                turns,
                (int) number(all, "output", 0) + 1);
    }

    private Region.Loop loop(Map<String, String> all, String otherwise) {
        String word = all.getOrDefault("loop_mode", all.getOrDefault("loopmode", otherwise));
        return switch (word) {
            case "no_loop" -> Region.Loop.NONE;
            case "one_shot" -> Region.Loop.ONE_SHOT;
            case "loop_continuous" -> Region.Loop.CONTINUOUS;
            case "loop_sustain" -> Region.Loop.SUSTAIN;
            default -> {
                told.add("The loop mode '" + PlainText.of(word, 40) + "' is not known here.");
                yield Region.Loop.NONE;
            }
        };
    }

    private int key(Map<String, String> all, String name, int otherwise) {
        String text = all.get(name);
        if (text == null) {
            return otherwise;
        }
        OptionalInt key = KeyNames.key(text);
        if (key.isEmpty()) {
            told.add("'" + PlainText.of(text, 40) + "' is no key.");
        }
        return key.orElse(otherwise);
    }

    private double number(Map<String, String> all, String name, double otherwise) {
        String text = all.get(name);
        if (text == null) {
            return otherwise;
        }
        try {
            double value = Double.parseDouble(text);
            if (Double.isFinite(value)) {
                return value;
            }
        } catch (NumberFormatException e) {
            // Told of below, like what is no finite number.
        }
        told.add("'" + PlainText.of(text, 40) + "' is no number.");
        return otherwise;
    }
}
