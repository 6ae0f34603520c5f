package waterwheel.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.intake.InstrumentImport;
import waterwheel.core.json.Json;
import waterwheel.core.notes.MidiNotes;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.SessionLock;
import waterwheel.core.units.FileStem;

@Command(
        name = "instrument",
        description =
                "Takes a file of notes (Standard MIDI File) in as an instrument: played by samples, with a track for"
                        + " each of their outputs, or by a synthesised sound.")
final class InstrumentCommand implements Callable<Integer> {
    private static final String PLUCKED = "plucked";
    private static final String STRUCK = "struck";

    @Mixin
    private SessionOptions options = new SessionOptions();

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "1", paramLabel = "NOTES", description = "The file of notes.")
    private Path file = Path.of("");

    @Option(
            names = "--samples",
            paramLabel = "MAP",
            description = "A map of samples in the open SFZ format, or a folder of audio files named by notes.")
    private @Nullable Path samples;

    @Option(names = "--sound", paramLabel = "SOUND", description = "${DEFAULT-VALUE} or struck, without samples.")
    private String sound = PLUCKED;

    @Option(names = "--channel", paramLabel = "NUMBER", description = "Only the notes of this channel, 1 to 16.")
    private int channel;

    @Option(names = "--name", paramLabel = "NAME", description = "The instrument's name; the file's unless said.")
    private @Nullable String name;

    @Override
    public Integer call() throws Exception {
        try (SessionLock lock = SessionLock.acquire(options.folder())) {
            SessionFolder.Loaded read = SessionFolder.load(options.folder());
            Session session = read.session();
            MidiNotes midi = MidiNotes.read(file, session.sampleRateHz());
            if (channel != 0 && !midi.channels().contains(channel)) {
                throw new ParameterException(
                        spec.commandLine(),
                        "There are no notes on channel " + channel + ". There are some on: " + midi.channels() + ".");
            }
            Notes notes = midi.notes(channel);
            Session after = add(session, notes);
            lock.save(after, read);
            tell(session, after, notes);
        }
        return 0;
    }

    private Session add(Session session, Notes notes) throws Exception {
        String called = name == null ? FileStem.of(file) : name;
        Path map = samples;
        Instrument instrument;
        List<AudioSource> sources;
        if (map == null) {
            instrument = switch (sound) {
                case PLUCKED -> Instrument.Synth.PLUCKED;
                case STRUCK -> Instrument.Synth.STRUCK;
                default ->
                    throw new ParameterException(
                            spec.commandLine(), "There is no sound '" + sound + "'. Choose plucked or struck.");
            };
            sources = List.of();
        } else {
            InstrumentImport taken = Console.withProgress(
                    "Taking samples in", progress -> InstrumentImport.take(session, options.folder(), map, progress));
            taken.told().forEach(Console::tell);
            instrument = taken.instrument();
            sources = taken.sources();
        }
        return NoteEdits.addInstrument(called.isBlank() ? "Instrument" : called, instrument, notes, sources)
                .apply(session);
    }

    private void tell(Session before, Session after, Notes notes) {
        List<Track> tracks =
                after.tracks().subList(before.tracks().size(), after.tracks().size());
        if (options.json()) {
            ObjectNode document = Json.object();
            document.put("notes", notes.notes().size());
            ArrayNode list = document.putArray("tracks");
            tracks.forEach(
                    track -> list.addObject().put("id", track.id().value()).put("name", track.name()));
            Console.out().print(Json.pretty(document));
            return;
        }
        tracks.forEach(track -> Console.say(track.name()));
        Console.say(notes.notes().size() + " notes.");
    }
}
