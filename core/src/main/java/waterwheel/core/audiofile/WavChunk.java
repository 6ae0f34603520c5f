package waterwheel.core.audiofile;

/**
 * A chunk of a WAV file.
 *
 * @param stated its length in bytes, as the file states it
 * @param body the place of its first byte in the file
 */
record WavChunk(FileBytes file, String id, long stated, long body) {
    private static final int HEAD = 8;
    /** The first chunk's place, after the file's own head. */
    static final long FIRST = 12;

    static boolean isAt(FileBytes file, long place) {
        return file.holds(place, HEAD);
    }

    static WavChunk at(FileBytes file, long place) {
        return new WavChunk(file, file.id(place), file.unsignedInt(place + 4), place + HEAD);
    }

    /** What it holds, as far as the file goes. */
    FileBytes bytes() {
        return file.part(body, Math.min(stated, file.size() - body));
    }

    /** With a length that stands elsewhere. */
    WavChunk withLength(long bytes) {
        return new WavChunk(file, id, bytes, body);
    }

    /** The place of the next one. Chunks are padded to an even length, except by writers that forget it. */
    long next() {
        long end = body + stated;
        boolean padded = (stated & 1) == 1 && (file.looksLikeId(end + 1) || !file.looksLikeId(end));
        return padded ? end + 1 : end;
    }
}
