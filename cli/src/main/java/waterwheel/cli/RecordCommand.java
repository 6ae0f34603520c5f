package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.edit.InputEdits;
import waterwheel.core.json.Json;
import waterwheel.core.rack.Port;
import waterwheel.core.recording.RecordRun;
import waterwheel.core.recording.Recorded;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.RackPort;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;

@Command(
        name = "record",
        description =
                "Plays the song and records what comes in by the inputs of the interface that feed the named tracks,"
                        + " each to a new clip in time. Stopped early, it keeps what came in.")
final class RecordCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1..*", arity = "1..*", paramLabel = "TRACK", description = "Tracks, by name or id.")
    private List<String> names = List.of();

    @Option(
            names = "--input",
            paramLabel = "N",
            description =
                    "Feeds the track by this input, or by it and the next where the track is stereo; several tracks"
                            + " by the ones after it.")
    private int input;

    @Option(
            names = "--at",
            paramLabel = "SECONDS",
            converter = NumberIn.Place.class,
            description = "Where in the song to begin; at its beginning unless said.")
    private double at;

    @Option(
            names = "--for",
            paramLabel = "SECONDS",
            required = true,
            converter = NumberIn.Duration.class,
            description = "How long to record; the song goes on behind its end.")
    private double seconds;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = fed(read.session());
            List<Track> tracks = names.stream()
                    .map(name -> Named.channel(spec, "track", session.tracks(), name))
                    .toList();
            for (Track track : tracks) {
                if (track.input().isEmpty()) {
                    throw new ParameterException(
                            spec.commandLine(), "No input feeds " + track.name() + ": say which with --input N.");
                }
            }
            double rate = session.sampleRateHz();
            List<Recorded> recorded = Console.withProgress(
                    "Recording",
                    progress -> RecordRun.run(
                            session,
                            options.folder(),
                            tracks,
                            RackPort.of(session.rack(), session.sampleRateHz()),
                            Math.round(at * rate),
                            Math.max(1, Math.round(seconds * rate)),
                            progress));
            lock.save(Recorded.into(session, recorded), read);
            tell(session, recorded);
            return recorded.isEmpty() ? 1 : 0;
        }
    }

    private Session fed(Session session) {
        if (input == 0) {
            return session;
        }
        Session out = session;
        int port = input;
        for (String name : names) {
            Track track = Named.channel(spec, "track", out.tracks(), name);
            if (port < 1 || port + track.planes() - 1 > Port.MOST) {
                throw new ParameterException(
                        spec.commandLine(),
                        "There is no input " + port + ": inputs are numbered from 1 to " + Port.MOST + ".");
            }
            out = InputEdits.input(track, port).apply(out);
            port += track.planes();
        }
        return out;
    }

    private void tell(Session session, List<Recorded> recorded) {
        ObjectNode document = Json.object();
        ArrayNode list = document.putArray("recorded");
        List<String> lines = new ArrayList<>();
        for (Recorded one : recorded) {
            AudioSource source = one.source();
            list.addObject()
                    .put("channel", one.track().value())
                    .put("path", source.path())
                    .put("songFrame", one.songFrame())
                    .put("frames", source.frames())
                    .put("clippedSamples", one.clippedSamples())
                    .put("missedFrames", one.missedFrames());
            lines.add(session.channel(one.track()).name() + ": " + source.path() + one.troubles());
        }
        if (options.json()) {
            Console.out().print(Json.pretty(document));
        } else if (lines.isEmpty()) {
            Console.say("Nothing came in: nothing was recorded.");
        } else {
            lines.forEach(Console::say);
        }
    }
}
