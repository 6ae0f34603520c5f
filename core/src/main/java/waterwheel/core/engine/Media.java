package waterwheel.core.engine;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.ContentHash;
import waterwheel.core.audiofile.ContentNotes;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.instruments.Sample;
import waterwheel.core.processing.Response;
import waterwheel.core.session.Session;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/**
 * A session's audio files, open. A file that is missing or is not what it was plays as silence and is told of, so that
 * one lost file does not keep a session from opening. Close it when no engine runs on it.
 */
public final class Media implements AutoCloseable {
    /** The folder in a session's folder that holds what can be found out again. */
    public static final String CACHE = "cache";

    /** A response is used as far as that, so that a song taken for one does not fill the memory. */
    private static final int MOST_RESPONSE_SECONDS = 30;

    private static final int MOST_SAMPLE_SECONDS = 60;

    private final Map<SourceId, AudioFile> files = new LinkedHashMap<>();
    private final Map<SourceId, AudioFileException> problems = new LinkedHashMap<>();

    private final Map<SourceId, String> changed = new LinkedHashMap<>();
    private final Map<SourceId, String> fingerprints = new HashMap<>();
    private final Map<SourceId, String> contents = new HashMap<>();

    private final Map<SourceId, Response> responses = new HashMap<>();
    private final Map<SourceId, Sample> samples = new HashMap<>();

    private Media() {}

    /**
     * Opens every source of a session.
     *
     * @param folder the session's folder, from which relative paths start
     */
    public static Media open(Session session, Path folder) {
        Media media = new Media();
        ContentNotes notes = ContentNotes.in(folder.resolve(CACHE));
        for (AudioSource source : session.sources()) {
            try {
                AudioFile file = open(source, session.sampleRateHz(), folder);
                media.files.put(source.id(), file);
                media.fingerprints.put(source.id(), fingerprint(file.path()));
                media.compareContent(source, file.path(), notes);
                if (!source.contentHash().isEmpty()) {
                    media.contents.put(source.id(), media.changed.getOrDefault(source.id(), source.contentHash()));
                }
            } catch (AudioFileException e) {
                media.problems.put(source.id(), e);
            }
        }
        notes.keep();
        return media;
    }

    private static String fingerprint(Path file) throws AudioFileException {
        try {
            return file.toAbsolutePath() + "|" + Files.size(file) + "|" + Files.getLastModifiedTime(file);
        } catch (IOException e) {
            throw new AudioFileException(file, "cannot be looked at.", "Check that you may read it.", e);
        }
    }

    /**
     * Looks at what a file holds, unless it was not written since that was done. Other audio of the same length is
     * played, and told of.
     */
    private void compareContent(AudioSource source, Path file, ContentNotes notes) throws AudioFileException {
        try {
            boolean known = source.contentHash().isEmpty()
                    || Files.getLastModifiedTime(file).toMillis() == source.modifiedMillis();
            String hash = known ? source.contentHash() : notes.of(file);
            if (!hash.equals(source.contentHash())) {
                changed.put(source.id(), hash);
            }
        } catch (IOException e) {
            throw new AudioFileException(file, "cannot be looked at.", "Check that you may read it.", e);
        }
    }

    private static AudioFile open(AudioSource source, int sessionRateHz, Path folder) throws AudioFileException {
        AudioFile file = AudioFiles.open(folder.resolve(source.path()));
        AudioFormat format = file.format();
        if (format.channels() != source.channels()
                || format.sampleRateHz() != source.sampleRateHz()
                || format.frames() != source.frames()) {
            file.close();
            throw new AudioFileException(
                    file.path(),
                    "is not the file that the session was made with: its length, rate or channels differ.",
                    "Put the original back.");
        }
        if (format.sampleRateHz() != sessionRateHz) {
            file.close();
            throw new AudioFileException(
                    file.path(),
                    "runs at " + format.sampleRateHz() + " Hz, but the session at " + sessionRateHz + " Hz.",
                    "Take the file in again, which converts it, or mend the session's rate.");
        }
        return file;
    }

    /** Lets go of the memory that the files take where they were read; what is read again is read anew. */
    public void release() {
        files.values().forEach(file -> file.release(0, file.format().frames()));
    }

    /** The file of a source, or empty where it plays as silence. */
    public Optional<AudioFile> file(SourceId id) {
        return Optional.ofNullable(files.get(id));
    }

    /** A file as an impulse response, read once; null where the file is missing. */
    public synchronized @Nullable Response response(SourceId id) {
        AudioFile file = files.get(id);
        return file == null ? null : responses.computeIfAbsent(id, any -> read(file));
    }

    private static Response read(AudioFile file) {
        return Response.of(planes(file, MOST_RESPONSE_SECONDS));
    }

    /** A file as a sample, read once, its first minute; nothing where the file is missing. */
    public synchronized Sample sample(SourceId id) {
        AudioFile file = files.get(id);
        return file == null
                ? Sample.NONE
                : samples.computeIfAbsent(id, any -> new Sample(planes(file, MOST_SAMPLE_SECONDS)));
    }

    private static float[][] planes(AudioFile file, int mostSeconds) {
        int frames = Math.clamp(
                file.format().frames(), 0, mostSeconds * file.format().sampleRateHz());
        float[][] samples = new float[file.format().channels()][frames];
        file.reader(Math.max(1, frames)).read(0, samples, 0, frames);
        return samples;
    }

    /** Goes on with the responses and samples of other media whose files are the same, so that reverbs that work with them go on too. */
    public void keepResponses(Media earlier) {
        Map<SourceId, Response> read;
        Map<SourceId, Sample> held;
        synchronized (earlier) {
            read = Map.copyOf(earlier.responses);
            held = Map.copyOf(earlier.samples);
        }
        synchronized (this) {
            held.forEach((id, sample) -> {
                if (sameAs(earlier, id)) {
                    samples.put(id, sample);
                }
            });
            read.forEach((id, response) -> {
                if (sameAs(earlier, id)) {
                    responses.put(id, response);
                }
            });
        }
    }

    private boolean sameAs(Media earlier, SourceId id) {
        return files.containsKey(id) && fingerprint(id).equals(earlier.fingerprint(id));
    }

    /** Why sources cannot be played, in the order of the session. */
    public Map<SourceId, AudioFileException> problems() {
        return Collections.unmodifiableMap(problems);
    }

    /** The same, a sentence each. */
    public Map<SourceId, String> sentences() {
        Map<SourceId, String> sentences = new LinkedHashMap<>();
        problems.forEach((id, problem) -> sentences.put(id, problem.getMessage()));
        return sentences;
    }

    /** Sources whose files hold other audio than when the session was made, with the hashes of what they hold now. */
    public Map<SourceId, String> changed() {
        return Collections.unmodifiableMap(changed);
    }

    /** What is wrong with a source's file, or null. */
    public @Nullable AudioFileException problem(SourceId id) {
        return problems.get(id);
    }

    /** What tells a source's samples from those of another file or another state of it. */
    public String fingerprint(SourceId id) {
        return fingerprints.getOrDefault(id, "silence");
    }

    /** Whether a source's file is there and holds what it held. */
    public boolean holds(SourceId id) {
        return files.containsKey(id) && !changed.containsKey(id);
    }

    /**
     * What tells a source's samples from others' wherever its file lies: the hash of what the file holds. A file that
     * nobody looked into is read once; one that cannot be played is silence.
     */
    public synchronized String content(SourceId id) {
        AudioFile file = files.get(id);
        return file == null ? "silence" : contents.computeIfAbsent(id, any -> hash(id, file.path()));
    }

    /** Of a file that cannot be read any more, what is like no content. */
    private String hash(SourceId id, Path file) {
        try {
            return ContentHash.of(file);
        } catch (IOException e) {
            return fingerprint(id);
        }
    }

    @Override
    public void close() {
        files.values().forEach(AudioFile::close);
        files.clear();
    }
}
