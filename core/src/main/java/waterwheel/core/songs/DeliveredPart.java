package waterwheel.core.songs;

/**
 * A part of a delivered song, read back from its file.
 *
 * @param name of the part, or of what is heard together
 * @param where its file, relative to the song's folder, with the channels in it where it is not alone there
 * @param sum whether it is the sum of the others
 */
public record DeliveredPart(String name, String where, boolean sum, Level level) {}
