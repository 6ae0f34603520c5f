package waterwheel.core.demo;

import java.util.ArrayList;
import java.util.List;

/**
 * "Sluicegate Reel" and the song in its middle, in quavers. A bar has eight; a quaver lasts 0.15 s. Melodies are
 * written one letter a quaver in D major: capitals from middle D up, small letters an octave higher, {@code -} holds
 * the note before, {@code .} rests.
 */
final class Tune {
    static final double QUAVER_SECONDS = 0.15;
    static final int BAR = 8;

    static final int COUNT_IN = 0;
    static final int INTRO = 2;
    static final int FIRST_TUNE = 10;
    static final int VERSE = 42;
    static final int CHORUS = 58;
    static final int SECOND_TUNE = 74;
    static final int ENDING = 98;
    static final int BARS = 100;

    private static final String A_PART = "DFAdBAFA GBdBAFEF DFAdedBA BdAFEGFE DFAdBAFA GBdefedB AdfdedBA FAGED-D-";
    private static final String B_PART = "fdAdfagf ecAcegfe dBGBdedB AFDFABAG fdAdfagf efgecABc dfedBGAB AFGED-D-";
    private static final String VERSE_LINE = "F-A-B-A- D-E-F--- G-B-d-B- A-----.. F-A-d-B- A-F-E--- G-F-E-F- D-----..";
    private static final String CHORUS_LINE = "d---B-A- F-A-d--- e---d-B- A-----.. d---f-e- d-B-A--- G-A-B-c- d-----..";
    private static final String A_CHORDS = "DGDADGDD";
    private static final String B_CHORDS = "DAGDDAGD";

    private Tune() {}

    /** The whole reel, as the melody instruments play it. */
    static List<Note> reel() {
        List<Note> notes = new ArrayList<>();
        for (int bar : new int[] {FIRST_TUNE, FIRST_TUNE + 8, SECOND_TUNE}) {
            notes.addAll(line(A_PART, bar));
        }
        for (int bar : new int[] {FIRST_TUNE + 16, FIRST_TUNE + 24, SECOND_TUNE + 8, SECOND_TUNE + 16}) {
            notes.addAll(line(B_PART, bar));
        }
        notes.add(new Note(ENDING * BAR, 12, 62, 1));
        return notes;
    }

    /** The verse's melody. */
    static List<Note> verse() {
        List<Note> notes = new ArrayList<>(line(VERSE_LINE, VERSE));
        notes.addAll(line(VERSE_LINE, VERSE + 8));
        return notes;
    }

    /** The chorus's melody. */
    static List<Note> chorus() {
        List<Note> notes = new ArrayList<>(line(CHORUS_LINE, CHORUS));
        notes.addAll(line(CHORUS_LINE, CHORUS + 8));
        return notes;
    }

    /** Key of the root of a bar's chord, in the octave below middle C; every chord here is major. */
    static int chord(int bar) {
        String chords = bar < FIRST_TUNE || bar >= ENDING
                ? "DDDDDDDD"
                : bar < FIRST_TUNE + 16 || (bar >= VERSE && bar < SECOND_TUNE + 8) ? A_CHORDS : B_CHORDS;
        int from = bar < FIRST_TUNE ? INTRO : bar < VERSE ? FIRST_TUNE : bar < SECOND_TUNE ? VERSE : SECOND_TUNE;
        return key(chords.charAt(Math.floorMod(bar - from, 8))) - 12;
    }

    /** Moves a melody by steps of the scale rather than by semitones, as a second voice does. */
    static Note harmony(Note note, int steps) {
        int[] scale = {0, 2, 4, 5, 7, 9, 11};
        int fromTonic = note.key() - 62;
        int octave = Math.floorDiv(fromTonic, 12);
        int degree = 0;
        for (int i = 0; i < scale.length; i++) {
            if (scale[i] <= Math.floorMod(fromTonic, 12)) {
                degree = i;
            }
        }
        int moved = degree + steps + 7 * octave;
        return new Note(
                note.start(),
                note.length(),
                62 + 12 * Math.floorDiv(moved, 7) + scale[Math.floorMod(moved, 7)],
                note.force());
    }

    private static List<Note> line(String letters, int bar) {
        List<Note> notes = new ArrayList<>();
        String quavers = letters.replace(" ", "");
        for (int i = 0; i < quavers.length(); i++) {
            char letter = quavers.charAt(i);
            if (letter == '-' || letter == '.') {
                continue;
            }
            int end = i + 1;
            while (end < quavers.length() && quavers.charAt(end) == '-') {
                end++;
            }
            // The pulse of a reel: the first quaver of each half bar leads.
            double force = i % BAR == 0 ? 1 : i % 4 == 0 ? 0.85 : i % 2 == 0 ? 0.7 : 0.6;
            notes.add(new Note(bar * BAR + i, end - i, key(letter), force));
        }
        return notes;
    }

    private static int key(char letter) {
        int key =
                switch (Character.toUpperCase(letter)) {
                    case 'D' -> 62;
                    case 'E' -> 64;
                    case 'F' -> 66;
                    case 'G' -> 67;
                    case 'A' -> 69;
                    case 'B' -> 71;
                    case 'C' -> 73;
                    default -> throw new IllegalArgumentException("letter: " + letter + " (expected: A to G)");
                };
        // A, B and C follow D upwards; so the small letters a to g continue from d.
        return Character.isLowerCase(letter) ? key + 12 : key;
    }
}
