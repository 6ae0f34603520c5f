package waterwheel.core.filefacts;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.work.AsideFile;

/** Facts of a file as a file of their own. Only for this machine's own use; no other program reads it. */
public final class FactsFile {
    /** Another number where the layout, or what is found, becomes another. */
    private static final int MARK = 0x5757_4602;

    private FactsFile() {}

    /**
     * Writes facts.
     *
     * @throws IOException if the disk refuses; nothing is left under the file's name
     */
    public static void write(FileFacts facts, Path file) throws IOException {
        AsideFile.write(file, path -> writeTo(facts, path));
    }

    private static void writeTo(FileFacts facts, Path path) throws IOException {
        try (DataOutputStream out = new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(path)))) {
            AudioFormat format = facts.format();
            out.writeInt(MARK);
            out.writeLong(format.frames());
            out.writeInt(format.channels());
            out.writeInt(format.sampleRateHz());
            out.writeUTF(format.encoding().name());
            out.writeBoolean(format.truncated());
            out.writeLong(format.timeReferenceFrames().orElse(-1));
            out.writeLong(facts.flattenedRuns());
            out.writeLong(facts.flattenedSamples());
            out.writeInt(facts.runs().size());
            for (FlattenedRun run : facts.runs()) {
                out.writeLong(run.firstFrame());
                out.writeLong(run.frames());
            }
            out.writeLong(facts.oversSamples());
            out.writeLong(facts.nonFiniteSamples());
            out.writeDouble(facts.truePeakDbtp());
            out.writeDouble(facts.dcOffset());
            out.writeBoolean(facts.sidesIdentical());
            out.writeBoolean(facts.sidesInverted());
            out.writeInt(facts.silentSide());
            out.writeLong(facts.leadingSilenceFrames());
            out.writeLong(facts.digest());
            facts.overview().write(out);
        }
    }

    /**
     * Reads facts that were written before.
     *
     * @return null where there are none, or they are not whole
     */
    public static @Nullable FileFacts read(Path file) {
        try (DataInputStream in = new DataInputStream(new BufferedInputStream(Files.newInputStream(file)))) {
            if (in.readInt() != MARK) {
                return null;
            }
            AudioFormat format = format(in);
            long flattenedRuns = in.readLong();
            long flattenedSamples = in.readLong();
            int count = in.readInt();
            if (count < 0 || count > FileFacts.MOST_RUNS_LISTED) {
                return null;
            }
            List<FlattenedRun> runs = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                runs.add(new FlattenedRun(in.readLong(), in.readLong()));
            }
            return new FileFacts(
                    format,
                    flattenedRuns,
                    flattenedSamples,
                    runs,
                    in.readLong(),
                    in.readLong(),
                    in.readDouble(),
                    in.readDouble(),
                    in.readBoolean(),
                    in.readBoolean(),
                    in.readInt(),
                    in.readLong(),
                    in.readLong(),
                    Overview.read(in));
        } catch (IOException | IllegalArgumentException e) {
            return null;
        }
    }

    private static AudioFormat format(DataInputStream in) throws IOException {
        long frames = in.readLong();
        int channels = in.readInt();
        int rate = in.readInt();
        SampleEncoding encoding = SampleEncoding.valueOf(in.readUTF());
        boolean truncated = in.readBoolean();
        long reference = in.readLong();
        return new AudioFormat(
                frames,
                channels,
                rate,
                encoding,
                truncated,
                reference < 0 ? OptionalLong.empty() : OptionalLong.of(reference));
    }
}
