package waterwheel.core.intake;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.function.Predicate;
import java.util.stream.Stream;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.Edits;
import waterwheel.core.edit.FlowEdits;
import waterwheel.core.edit.Numbered;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** The edits of taking files in. Files that an edit no longer needs stay in the folder, so that it can be undone. */
public final class IntakeEdits {
    private IntakeEdits() {}

    /** Adds a track for each file, before the buses, to the main bus. */
    public static Edit add(List<ImportedFile> files) {
        List<ImportedFile> taken = List.copyOf(files);
        String name = taken.size() == 1 ? "New track " + taken.getFirst().name() : taken.size() + " new tracks";
        return new Edit(name, session -> {
            List<AudioSource> sources = new ArrayList<>(session.sources());
            List<Channel> channels = new ArrayList<>(session.channels());
            int at = session.tracks().size();
            List<String> names =
                    TrackNames.of(taken.stream().map(ImportedFile::name).toList());
            for (int i = 0; i < taken.size(); i++) {
                AudioSource source = source(sources, taken.get(i));
                sources.add(source);
                String trackName = names.get(i);
                channels.add(
                        at + i,
                        new Track(
                                freeId(session, channels),
                                trackName,
                                KindProposal.of(trackName, OptionalDouble.empty()),
                                source.channels(),
                                List.of(new Clip(source.id(), 0, 0, source.frames(), 0)),
                                Strip.unity(Output.to(session.mainId()))));
            }
            return session.withSources(sources).withChannels(channels);
        });
    }

    /** Gives a track another file; its clips' place and gain stay where it has one clip. */
    public static Edit replace(Track track, ImportedFile file) {
        return new Edit("File of " + track.name(), session -> {
            List<AudioSource> sources = new ArrayList<>(session.sources());
            AudioSource source = source(sources, file);
            sources.add(source);
            return session.withSources(sources).withChannel(track.id(), c -> {
                Track now = (Track) c;
                boolean one = now.clips().size() == 1;
                long start = one ? now.clips().getFirst().startFrames() : 0;
                double gain = one ? now.clips().getFirst().gainDb() : 0;
                Clip clip = new Clip(source.id(), start, 0, source.frames(), gain);
                return now.withPlanes(source.channels()).withClips(List.of(clip));
            });
        });
    }

    /** Gives an insert that works with one a file as its impulse response. */
    public static Edit response(Channel channel, SlotId slot, ImportedFile file) {
        return new Edit("Impulse response on " + channel.name(), session -> {
            List<AudioSource> sources = new ArrayList<>(session.sources());
            AudioSource source = source(sources, file);
            sources.add(source);
            return FlowEdits.insert(
                            channel, slot, i -> i.withProcessor(i.processor().withResponse(source.id())))
                    .apply(session.withSources(sources));
        });
    }

    /** Makes one stereo track of a pair; the left one's trim and fader stay. */
    public static Edit join(StereoPair pair, ImportedFile file) {
        return new Edit("Stereo track " + pair.name(), session -> {
            Session with = replace(pair.left(), file)
                    .apply(session)
                    .withChannel(pair.left().id(), c -> c.withName(pair.name()))
                    .withStrip(pair.left().id(), s -> s.withPlacement(Placement.CENTRE));
            return with.withChannels(with.channels().stream()
                    .filter(Predicate.not(c -> c.id().equals(pair.right().id())))
                    .toList());
        });
    }

    /** Uses the left side alone of a stereo file, as a mono track, which then follows the pan law. */
    public static Edit leftSideOnly(Track track) {
        return oneSideOnly(track, Clip.Side.LEFT);
    }

    /** Makes a stereo track mono, of one of its files' sides. */
    public static Edit oneSideOnly(Track track, Clip.Side side) {
        return new Edit(
                track.name() + " to mono",
                s -> s.withChannel(track.id(), c -> ((Track) c)
                        .withPlanes(1)
                        .withClips(((Track) c)
                                .clips().stream()
                                        .map(clip -> clip.withSide(side))
                                        .toList())));
    }

    /** Takes the audio that a source's file holds now for the one that the session is made with. */
    public static Edit takeAsItIs(AudioSource source, String hash) {
        return new Edit(
                "Content of " + source.fileName(),
                s -> s.withSources(s.sources().stream()
                        .map(one -> one.id().equals(source.id()) ? one.withContent(hash, 0) : one)
                        .toList()));
    }

    /** Sets the kinds of several tracks in one step. */
    public static Edit kinds(Map<ChannelId, Track.Kind> kinds) {
        return Edits.each(
                "Kinds of " + kinds.size() + " tracks",
                kinds,
                (c, kind) -> c instanceof Track t ? t.withKind(kind) : c);
    }

    /** Marks a track with a colour. */
    public static Edit colour(Track track, Track.Colour colour) {
        return new Edit(
                "Colour of " + track.name(),
                s -> s.withChannel(track.id(), c -> c instanceof Track t ? t.withColour(colour) : c));
    }

    /** Names several channels in one step. */
    public static Edit names(Map<ChannelId, String> names) {
        return Edits.each("Names of " + names.size() + " tracks", names, Channel::withName);
    }

    /** Moves a track up or down among the tracks, by one place. */
    public static Edit move(Track track, int step) {
        return new Edit("Order of " + track.name(), session -> {
            List<Channel> channels = new ArrayList<>(session.channels());
            int from = channels.indexOf(session.channel(track.id()));
            int to = from + step;
            if (to < 0 || to >= channels.size() || !(channels.get(to) instanceof Track)) {
                return session;
            }
            Collections.swap(channels, from, to);
            return session.withChannels(channels);
        });
    }

    private static AudioSource source(List<AudioSource> present, ImportedFile file) {
        List<String> taken = present.stream().map(s -> s.id().value()).toList();
        return file.source(new SourceId(Numbered.free("s", present.size() + 1, taken)));
    }

    private static ChannelId freeId(Session session, List<Channel> present) {
        List<String> taken = Stream.concat(present.stream(), session.everyChannel().stream())
                .map(c -> c.id().value())
                .toList();
        return new ChannelId(Numbered.free("t", present.size(), taken));
    }
}
