package waterwheel.core.session;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import waterwheel.core.notes.Notes;
import waterwheel.core.rack.Rack;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.Ranges;

/**
 * A multitrack session.
 *
 * @param title the song's name, shown in the window and in reports
 * @param sampleRateHz frames per second of every file and of the song's line, 8,000 to 384,000 Hz
 * @param nominalDbfs the level that reads 0 VU, as a sine's, -24 to -12 dBFS
 * @param sources the audio files in use
 * @param channels tracks and buses in the order of the screen
 * @param mainId the bus that is the mix; its output is nowhere
 * @param sections named parts of the song, by start
 * @param staging what channels are staged to
 * @param vcas faders over faders
 * @param links groups of channels whose controls move together
 * @param assignments what the parts of controllers move; of a control that is not there any more it waits
 * @param rack the hardware around it
 * @param parked channels that prints stand in for
 * @param stems how its mix is divided
 */
public record Session(
        String title,
        int sampleRateHz,
        PanLaw panLaw,
        double nominalDbfs,
        List<AudioSource> sources,
        List<Channel> channels,
        ChannelId mainId,
        List<Section> sections,
        StagingTargets staging,
        List<Vca> vcas,
        List<LinkGroup> links,
        List<Assignment> assignments,
        Rack rack,
        List<Parked> parked,
        StemDivision stems) {

    public Session {
        sources = IdList.of(sources, AudioSource::id);
        channels = IdList.of(channels, Channel::id);
        sections = List.copyOf(sections);
        vcas = IdList.of(vcas, Vca::id);
        links = List.copyOf(links);
        assignments = List.copyOf(assignments);
        parked = List.copyOf(parked);
        nominalDbfs = Ranges.checked("nominalDbfs", nominalDbfs, -24, -12);
        if (sampleRateHz < 8_000 || sampleRateHz > 384_000) {
            throw new IllegalArgumentException("sampleRateHz: " + sampleRateHz + " (expected: 8000 to 384000)");
        }
        References.check(sources, channels, mainId, parked);
        Groups.check(channels, vcas, links, stems);
    }

    /** A session with the usual staging targets, no VCAs, no link groups, no controllers and no hardware. */
    public Session(
            String title,
            int sampleRateHz,
            PanLaw panLaw,
            double nominalDbfs,
            List<AudioSource> sources,
            List<Channel> channels,
            ChannelId mainId,
            List<Section> sections) {
        this(
                title,
                sampleRateHz,
                panLaw,
                nominalDbfs,
                sources,
                channels,
                mainId,
                sections,
                StagingTargets.DEFAULT,
                List.of(),
                List.of(),
                List.of(),
                Rack.NONE,
                List.of(),
                StemDivision.TRACKS);
    }

    /** Length of the song: the end of its last clip or note, in frames; 0 for a session without any. */
    public long lengthFrames() {
        long end = 0;
        for (Track track : tracks()) {
            for (Clip clip : track.clips()) {
                end = Math.max(end, clip.endFrames());
            }
            end = Math.max(
                    end,
                    performance(track)
                            .map(Feed.Played::notes)
                            .map(Notes::endFrames)
                            .orElse(0L));
        }
        return end;
    }

    /** The tracks in the order of the screen. */
    public List<Track> tracks() {
        return channels.stream()
                .filter(Track.class::isInstance)
                .map(Track.class::cast)
                .toList();
    }

    /** The buses in the order of the screen, the main bus among them. */
    public List<Bus> buses() {
        return channels.stream()
                .filter(Bus.class::isInstance)
                .map(Bus.class::cast)
                .toList();
    }

    public Optional<Channel> find(ChannelId id) {
        return IdList.find(channels, id, Channel::id);
    }

    /**
     * Returns a channel by its id.
     *
     * @throws IllegalArgumentException if the session has no such channel
     */
    public Channel channel(ChannelId id) {
        return find(id).orElseThrow(() -> noSuch(id));
    }

    public Optional<Vca> findVca(ChannelId id) {
        return IdList.find(vcas, id, Vca::id);
    }

    public Bus main() {
        return (Bus) channel(mainId);
    }

    /**
     * Returns a source by its id.
     *
     * @throws IllegalArgumentException if the session has no such source
     */
    public AudioSource source(SourceId id) {
        return IdList.find(sources, id, AudioSource::id)
                .orElseThrow(() -> new IllegalArgumentException("id: '" + id + "' (expected: a source's id)"));
    }

    /**
     * Returns the session with one channel changed.
     *
     * @throws IllegalArgumentException if the session has no such channel
     */
    public Session withChannel(ChannelId id, UnaryOperator<Channel> change) {
        Channel before = channel(id);
        Channel after = change.apply(before);
        if (after.equals(before)) {
            return this;
        }
        List<Channel> changed =
                channels.stream().map(c -> c.id().equals(id) ? after : c).toList();
        return withChannels(changed);
    }

    /** Returns the session with one channel's strip changed. */
    public Session withStrip(ChannelId id, UnaryOperator<Strip> change) {
        return withChannel(id, channel -> channel.withStrip(change.apply(channel.strip())));
    }

    public Session withChannels(List<Channel> value) {
        return copy(draft -> draft.channels = value);
    }

    public Session withParked(List<Parked> value) {
        return copy(draft -> draft.parked = value);
    }

    /** What a track plays, or plays one of its outputs; empty where nothing does. */
    public Optional<Feed.Played> performance(Track track) {
        return switch (track.feed()) {
            case Feed.Played played -> Optional.of(played);
            // Its track may be parked: the other outputs sound on.
            case Feed.Output(ChannelId player, int output) ->
                everyChannel().stream()
                        .filter(channel -> channel.id().equals(player))
                        .flatMap(channel -> channel instanceof Track one ? one.played().stream() : Stream.empty())
                        .findFirst()
                        .map(played -> new Feed.Played(played.instrument(), played.notes(), output));
            case Feed.Clips _, Feed.Tapped _, Feed.Input _ -> Optional.empty();
        };
    }

    /** All channels, those that are parked among them: what has files that must be kept. */
    public List<Channel> everyChannel() {
        List<Channel> all = new ArrayList<>(channels);
        for (Parked one : parked) {
            all.add(one.channel());
            one.along().forEach(along -> all.add(along.channel()));
        }
        return all;
    }

    public Session withTitle(String value) {
        return copy(draft -> draft.title = value);
    }

    public Session withPanLaw(PanLaw value) {
        return copy(draft -> draft.panLaw = value);
    }

    public Session withNominalDbfs(double value) {
        return copy(draft -> draft.nominalDbfs = value);
    }

    public Session withSources(List<AudioSource> value) {
        return copy(draft -> draft.sources = value);
    }

    /** Returns the session with files that it does not have yet. */
    public Session withMoreSources(List<AudioSource> more) {
        return withSources(Stream.concat(sources.stream(), more.stream()).toList());
    }

    /** The ids of all sources; a new set, to which others may be added. */
    public Set<SourceId> sourceIds() {
        Set<SourceId> ids = new HashSet<>();
        sources.forEach(source -> ids.add(source.id()));
        return ids;
    }

    public Session withSections(List<Section> value) {
        return copy(draft -> draft.sections = value);
    }

    public Session withStaging(StagingTargets value) {
        return copy(draft -> draft.staging = value);
    }

    public Session withVcas(List<Vca> value) {
        return copy(draft -> draft.vcas = value);
    }

    public Session withLinks(List<LinkGroup> value) {
        return copy(draft -> draft.links = value);
    }

    public Session withAssignments(List<Assignment> value) {
        return copy(draft -> draft.assignments = value);
    }

    public Session withRack(Rack value) {
        return copy(draft -> draft.rack = value);
    }

    public Session withStems(StemDivision value) {
        return copy(draft -> draft.stems = value);
    }

    /** The level that reads 0 VU for a channel: its own reference, or the session's nominal level; in dBFS. */
    public double referenceDbfs(Channel channel) {
        return switch (channel) {
            case Track track -> track.ownReferenceDbfs().orElse(nominalDbfs);
            case Bus _ -> nominalDbfs;
        };
    }

    private static IllegalArgumentException noSuch(ChannelId id) {
        return new IllegalArgumentException("id: '" + id + "' (expected: a channel's id)");
    }

    private Session copy(Consumer<Draft> change) {
        Draft draft = new Draft(this);
        change.accept(draft);
        return draft.session();
    }

    /** A session that is about to be, with one thing changed. */
    private static final class Draft {
        private final int sampleRateHz;
        private final ChannelId mainId;
        private String title;
        private PanLaw panLaw;
        private double nominalDbfs;
        private List<AudioSource> sources;
        private List<Channel> channels;
        private List<Section> sections;
        private StagingTargets staging;
        private List<Vca> vcas;
        private List<LinkGroup> links;
        private List<Assignment> assignments;
        private Rack rack;
        private List<Parked> parked;
        private StemDivision stems;

        Draft(Session from) {
            sampleRateHz = from.sampleRateHz;
            mainId = from.mainId;
            title = from.title;
            panLaw = from.panLaw;
            nominalDbfs = from.nominalDbfs;
            sources = from.sources;
            channels = from.channels;
            sections = from.sections;
            staging = from.staging;
            vcas = from.vcas;
            links = from.links;
            assignments = from.assignments;
            rack = from.rack;
            parked = from.parked;
            stems = from.stems;
        }

        Session session() {
            return new Session(
                    title,
                    sampleRateHz,
                    panLaw,
                    nominalDbfs,
                    sources,
                    channels,
                    mainId,
                    sections,
                    staging,
                    vcas,
                    links,
                    assignments,
                    rack,
                    parked,
                    stems);
        }
    }
}
