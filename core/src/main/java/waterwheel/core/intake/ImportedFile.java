package waterwheel.core.intake;

import waterwheel.core.audiofile.AudioFormat;

/**
 * A file that a session can use.
 *
 * @param path relative to the session's folder with forward slashes, or absolute where the file was linked
 * @param format of that file, at the session's rate, of 1 or 2 channels
 * @param name what the file that it came from is called, without ending; with a number where it held several channels
 */
public record ImportedFile(String path, AudioFormat format, String name) {}
