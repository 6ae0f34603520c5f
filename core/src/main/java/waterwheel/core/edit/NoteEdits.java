package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.notes.Note;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Feed;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;

/** The edits of instruments and the notes that they play. */
public final class NoteEdits {
    private NoteEdits() {}

    /**
     * Adds a track that an instrument plays; one with several outputs a track for each, all on a bus of their own.
     *
     * @param sources the instrument's files that the session does not have yet
     */
    public static Edit addInstrument(String name, Instrument instrument, Notes notes, List<AudioSource> sources) {
        return new Edit("New instrument " + name, session -> {
            Session out = session.withMoreSources(sources);
            List<Integer> outputs = instrument.outputs();
            ChannelId player = FlowEdits.freeId(out, "t");
            for (int output : outputs) {
                ChannelId id = FlowEdits.freeId(out, "t");
                Feed feed = output == outputs.getFirst()
                        ? new Feed.Played(instrument, notes, output)
                        : new Feed.Output(player, output);
                String own = outputs.size() == 1 ? name : name + " " + output;
                Track track = new Track(
                                id,
                                FlowEdits.freeName(out, own),
                                Track.Kind.SUSTAINED,
                                instrument instanceof Instrument.Synth ? 1 : 2,
                                List.of(),
                                Strip.unity(Output.to(out.mainId())))
                        .withFeed(feed);
                List<Channel> channels = new ArrayList<>(out.channels());
                channels.add(out.tracks().size(), track);
                out = out.withChannels(channels);
            }
            if (outputs.size() == 1) {
                return out;
            }
            List<Channel> members = List.copyOf(out.tracks()
                    .subList(out.tracks().size() - outputs.size(), out.tracks().size()));
            return FlowEdits.busAround(members, name).apply(out);
        });
    }

    /** Has a track play other notes. */
    public static Edit notes(String name, ChannelId track, UnaryOperator<Notes> change) {
        return new Edit(
                name, session -> played(session, track, played -> played.withNotes(change.apply(played.notes()))));
    }

    /** A track that plays no notes stays as it is. */
    private static Session played(Session session, ChannelId track, UnaryOperator<Feed.Played> change) {
        return session.withChannel(
                track,
                channel -> channel instanceof Track one && one.feed() instanceof Feed.Played played
                        ? one.withFeed(change.apply(played))
                        : channel);
    }

    /** Has a track play its notes by another instrument. */
    public static Edit instrument(Track track, Instrument instrument, List<AudioSource> sources) {
        return new Edit(
                "Instrument of " + track.name(),
                session -> played(
                        session.withMoreSources(sources),
                        track.id(),
                        played -> new Feed.Played(instrument, played.notes(), played.output())));
    }

    /**
     * Moves notes in time; none before the song's beginning.
     *
     * @param chosen their places in the list
     */
    public static Edit move(Track track, Set<Integer> chosen, long frames) {
        return each(
                "Move notes of " + track.name(),
                track,
                chosen,
                notes -> note -> note.withStartFrames(Math.max(0, note.startFrames() + frames)));
    }

    /** Moves notes in pitch, by semitones; those that would leave the keys stay. */
    public static Edit transpose(Track track, Set<Integer> chosen, int semitones) {
        return each("Transpose notes of " + track.name(), track, chosen, notes -> note -> {
            int key = note.key() + semitones;
            return key < 0 || key >= Note.KEYS ? note : note.withKey(key);
        });
    }

    /** Makes notes harder or softer, by a factor. */
    public static Edit scaleVelocity(Track track, Set<Integer> chosen, double factor) {
        return each(
                "Velocity of notes of " + track.name(),
                track,
                chosen,
                notes -> note -> note.withVelocity(Math.clamp(Math.round(note.velocity() * factor), 1, 127)));
    }

    /** Moves the starts of notes to the nearest place of a grid, in beats. */
    public static Edit align(Track track, Set<Integer> chosen, double gridBeats) {
        return each(
                "Align notes of " + track.name(),
                track,
                chosen,
                notes -> note -> note.withStartFrames(notes.tempo().aligned(note.startFrames(), gridBeats)));
    }

    private static Edit each(
            String name, Track track, Set<Integer> chosen, Function<Notes, UnaryOperator<Note>> change) {
        return notes(name, track.id(), notes -> {
            UnaryOperator<Note> one = change.apply(notes);
            List<Note> changed = new ArrayList<>();
            for (int i = 0; i < notes.notes().size(); i++) {
                Note note = notes.notes().get(i);
                changed.add(chosen.contains(i) ? one.apply(note) : note);
            }
            return notes.withNotes(changed);
        });
    }
}
