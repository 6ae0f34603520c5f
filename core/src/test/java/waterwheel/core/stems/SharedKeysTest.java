package waterwheel.core.stems;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Gate;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Tap;
import waterwheel.core.session.Track;
import waterwheel.core.testing.Sessions;
import waterwheel.core.testing.Signals;
import waterwheel.core.work.Progress;

/**
 * Stems of sessions in which tracks, buses and cues are the keys of compressors and gates on tracks and buses, and
 * tracks take their signal from buses: what listens hears the whole in every stem, so the stems add up.
 */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class SharedKeysTest {
    private static final int FRAMES = 9_600;
    private static final SlotId SLOT = new SlotId("1");
    private static final ChannelId KICK = Sessions.id("kick");
    private static final ChannelId PLAYED = Sessions.id("played");
    private static final ChannelId CLICK = Sessions.id("click");
    private static final ChannelId DRUMS = Sessions.id("drums");
    private static final ChannelId LOW = Sessions.id("low");
    private static final ChannelId COPY = Sessions.id("copy");

    @TempDir
    Path folder;

    private Session session(SplittableRandom random) throws Exception {
        float[] kick = Signals.noise(0.6, FRAMES, 1);
        for (int i = 0; i < FRAMES; i++) {
            kick[i] *= i / 1_200 % 2 == 0 ? 1 : 0.01f;
        }
        Session made = new Sessions(folder)
                .track("kick", "drums", kick)
                .track("room", "drums", Signals.noise(0.2, FRAMES, 2), Signals.noise(0.2, FRAMES, 3))
                .track("played", "low", Signals.noise(0.5, FRAMES, 4))
                .track("click", "main", Track.Kind.CUE, SampleEncoding.FLOAT_32, kick)
                .bus("drums", "main")
                .bus("low", "main")
                .build();
        Track copy = new Track(COPY, "copy", Track.Kind.SUSTAINED, 2, List.of(), Strip.unity(Output.to(Sessions.MAIN)))
                .withFeed(new Feed.Tapped(
                        new Tap(DRUMS, random.nextBoolean() ? Tap.Point.PRE_FADER : Tap.Point.POST_FADER)));
        List<Channel> channels = new ArrayList<>(made.channels());
        channels.add(random.nextInt(channels.size()), copy);
        made = made.withChannels(channels);
        Insert compressor = Insert.of(SLOT, Compressor.KIND);
        Insert gate = new Insert(SLOT, Processor.usual(Gate.KIND).with("thresholdDb", -20), false, 0, 0, 1);
        ChannelId keyed = random.nextBoolean() ? LOW : PLAYED;
        ChannelId key = List.of(KICK, CLICK, DRUMS, COPY).get(random.nextInt(4));
        Send send = Send.toKey(keyed, SLOT).withPreFader(random.nextBoolean());
        return made.withStrip(keyed, s -> s.withInserts(List.of(random.nextBoolean() ? compressor : gate)))
                .withStrip(key, s -> s.withSends(List.of(send)))
                .withStrip(DRUMS, s -> s.withFaderDb(-3));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
    void stems_add_up_whatever_listens_to_what(long seed) throws Exception {
        SplittableRandom random = new SplittableRandom(seed);
        Session session = session(random);
        StemDivision division = random.nextBoolean() ? StemDivision.TRACKS : StemDivision.BUSES;
        StemResult result = StemRender.render(
                session,
                folder,
                new StemRequest(folder.resolve("out"), RenderFormat.WAV_32F, new LevelPolicy.AsMixed(), true)
                        .with(StemSettings.USUAL.withDivision(division)),
                Progress.NONE);
        assertThat(result.proof().processedTogether()).isEmpty();
        assertThat(result.proof().residualPeakDbfs())
                .as(result.proof().inWords())
                .isLessThan(-120);
        assertThat(result.forecast().stems().stream().filter(StemForecast.Stem::silent))
                .isEmpty();
    }
}
