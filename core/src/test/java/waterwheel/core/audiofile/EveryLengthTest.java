package waterwheel.core.audiofile;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.foreign.MemorySegment;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Files of every length, read in pieces of every size: the last frames are decoded in another way than the rest. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class EveryLengthTest {
    private static final int LONGEST = 1_100;

    @ParameterizedTest
    @EnumSource(SampleEncoding.class)
    void every_length_and_every_split_gives_the_same_samples(SampleEncoding encoding) {
        SplittableRandom random = new SplittableRandom(encoding.name().hashCode());
        for (ByteOrder order : new ByteOrder[] {ByteOrder.LITTLE_ENDIAN, ByteOrder.BIG_ENDIAN}) {
            for (int channels = 1; channels <= 3; channels++) {
                byte[] stored = new byte[LONGEST * channels * encoding.bytes()];
                random.nextBytes(stored);
                float[][] expected = expected(stored, encoding, order, channels);
                for (int frames = 0; frames <= LONGEST; frames++) {
                    PcmLayout layout = new PcmLayout(
                            new AudioFormat(frames, channels, 48_000, encoding, false, OptionalLong.empty()),
                            0,
                            order,
                            true);
                    MemorySegment file =
                            MemorySegment.ofArray(Arrays.copyOf(stored, frames * channels * encoding.bytes()));
                    int most = 1 + random.nextInt(Math.max(1, frames));
                    SampleDecoder decoder = new SampleDecoder(layout, file);
                    float[][] read = new float[channels][frames + 1];
                    for (int at = 0; at < frames; ) {
                        int count = Math.min(frames - at, 1 + random.nextInt(most));
                        decoder.read(at, read, at, count);
                        at += count;
                    }
                    for (int c = 0; c < channels; c++) {
                        assertThat(Arrays.mismatch(read[c], 0, frames, expected[c], 0, frames))
                                .as("%s, %s, %d frames, channel %d of %d", encoding, order, frames, c, channels)
                                .isEqualTo(-1);
                    }
                }
            }
        }
    }

    /** One sample after the other, by the arithmetic of the formats alone. */
    private static float[][] expected(byte[] stored, SampleEncoding encoding, ByteOrder order, int channels) {
        float[][] planes = new float[channels][LONGEST];
        ByteBuffer in = ByteBuffer.wrap(stored).order(order);
        for (int i = 0; i < LONGEST * channels; i++) {
            double value =
                    switch (encoding) {
                        case PCM_8 -> (Byte.toUnsignedInt(in.get()) - 128) / 128.0;
                        case PCM_16 -> in.getShort() / 32_768.0;
                        case PCM_24 -> {
                            int one = Byte.toUnsignedInt(in.get());
                            int two = Byte.toUnsignedInt(in.get());
                            int three = Byte.toUnsignedInt(in.get());
                            int top = order == ByteOrder.BIG_ENDIAN ? one : three;
                            int low = order == ByteOrder.BIG_ENDIAN ? three : one;
                            yield ((byte) top * 65_536 + two * 256 + low) / 8_388_608.0;
                        }
                        case PCM_32 -> (float) in.getInt() / 2_147_483_648.0;
                        case FLOAT_32 -> in.getFloat();
                        case FLOAT_64 -> in.getDouble();
                    };
            float sample = (float) value;
            planes[i % channels][i / channels] = Float.isFinite(sample) ? sample : 0;
        }
        return planes;
    }
}
