package waterwheel.core.testing;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** Builds small sessions, with their files in a folder where they have any. */
public final class Sessions {
    public static final ChannelId MAIN = new ChannelId("main");
    public static final int RATE = 48_000;

    private final Path folder;
    private final List<AudioSource> sources = new ArrayList<>();
    private final List<Channel> channels = new ArrayList<>();

    public Sessions(Path folder) {
        this.folder = folder;
    }

    public Sessions track(String id, String output, float[]... planes) throws Exception {
        return track(id, output, Track.Kind.SUSTAINED, SampleEncoding.FLOAT_32, planes);
    }

    public Sessions track(String id, String output, Track.Kind kind, SampleEncoding encoding, float[]... planes)
            throws Exception {
        Files.createDirectories(folder);
        Signals.wav(folder.resolve(id + ".wav"), RATE, encoding, planes);
        SourceId source = new SourceId(id);
        sources.add(new AudioSource(source, id + ".wav", planes[0].length, planes.length, RATE, encoding.label()));
        channels.add(new Track(
                new ChannelId(id),
                id,
                kind,
                planes.length,
                List.of(new Clip(source, 0, 0, planes[0].length, 0)),
                Strip.unity(Output.to(new ChannelId(output)))));
        return this;
    }

    public Sessions bus(String id, String output) {
        channels.add(new Bus(new ChannelId(id), id, Strip.unity(Output.to(new ChannelId(output)))));
        return this;
    }

    public Session build() {
        List<Channel> all = new ArrayList<>(channels);
        all.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        return new Session("Test", RATE, PanLaw.MINUS_3, -18, sources, all, MAIN, List.of());
    }

    /** A session of one mono track without clips at a position. */
    public static Session monoAt(double position, PanLaw law) {
        Strip strip = Strip.unity(Output.to(MAIN)).withPlacement(Placement.CENTRE.withPosition(position));
        Track track = new Track(new ChannelId("mono"), "mono", Track.Kind.SUSTAINED, 1, List.of(), strip);
        Bus main = new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere()));
        return new Session("Test", RATE, law, -18, List.of(), List.of(track, main), MAIN, List.of());
    }

    public static ChannelId id(String value) {
        return new ChannelId(value);
    }
}
