package waterwheel.core.songs;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.order.Correction;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.Stretch;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.work.Progress;

/**
 * A song as a session of its stems: a track a file, a bus a part, all gains 0 dB but for what corrects them. A mono stem
 * sounds on both sides at its level.
 *
 * @param parts in the running order's order
 * @param session with every part in the mix but cues, which go nowhere
 * @param notes what was met on the way, a sentence each
 * @param refused files that cannot be used, a sentence each
 */
record SongSession(List<PartBus> parts, Session session, List<String> notes, List<String> refused) {
    /**
     * A part and its bus.
     *
     * @param stems names of what it is made of
     */
    record PartBus(Part part, ChannelId bus, List<String> stems) {
        PartBus {
            stems = List.copyOf(stems);
        }
    }

    /** What becomes of cues, which are never in the sum. */
    enum Cues {
        /** Their buses go nowhere, so that they can be measured like any other part. */
        ASIDE,
        /** Their files are cue tracks, which stems keep apart. */
        AS_TRACKS,
        /** They are heard with the rest. */
        HEARD
    }

    private static final SlotId CORRECTION = new SlotId("correction");
    private static final ChannelId MAIN = new ChannelId("main");

    /**
     * Makes the session of a song.
     *
     * @param sections in seconds
     * @param in which parts are in it
     * @throws WaterwheelException if no stem can be read
     * @throws java.util.concurrent.CancellationException if the progress says stop
     */
    static SongSession of(
            Song song,
            SongFiles files,
            List<Stretch> sections,
            RunningOrder order,
            OrderPlace place,
            Predicate<String> in,
            Cues cues,
            Progress progress)
            throws WaterwheelException {
        SongSources sources = SongSources.of(song, files, place, in, progress);
        Map<String, PartBus> parts = parts(sources, order);
        Session session = new Session(
                song.title(),
                sources.sampleRateHz(),
                PanLaw.ZERO,
                -18,
                sources.files().stream().map(SongSources.Stem::source).toList(),
                channels(song, sources, parts, cues),
                MAIN,
                List.of());
        return new SongSession(
                List.copyOf(parts.values()), withSections(session, sections), sources.notes(), sources.refused());
    }

    private static List<Channel> channels(Song song, SongSources sources, Map<String, PartBus> parts, Cues cues) {
        List<Channel> channels = new ArrayList<>();
        for (SongSources.Stem stem : sources.files()) {
            PartBus part = Objects.requireNonNull(parts.get(stem.part()));
            boolean alone = part.part().cue() && cues == Cues.AS_TRACKS;
            Strip strip = alone
                    ? corrected(Strip.unity(Output.to(MAIN)), song.correction(stem.part()))
                    : Strip.unity(Output.to(part.bus()));
            AudioSource source = stem.source();
            channels.add(new Track(
                    new ChannelId("t" + (channels.size() + 1)),
                    alone ? stem.name() : stem.part(),
                    alone ? Track.Kind.CUE : Track.Kind.SUSTAINED,
                    source.channels(),
                    List.of(new Clip(source.id(), 0, 0, source.frames(), 0)),
                    strip));
        }
        for (PartBus one : parts.values()) {
            String name = one.part().name();
            boolean aside = one.part().cue() && cues != Cues.HEARD;
            Output output = aside ? new Output.Nowhere() : Output.to(MAIN);
            channels.add(new Bus(one.bus(), name, corrected(Strip.unity(output), song.correction(name))));
        }
        channels.add(new Bus(MAIN, "Main", Strip.unity(new Output.Nowhere())));
        return channels;
    }

    /** In the running order's order, those that it does not know behind. */
    private static Map<String, PartBus> parts(SongSources sources, RunningOrder order) {
        Set<String> there = new LinkedHashSet<>();
        sources.files().forEach(stem -> there.add(stem.part()));
        Map<String, PartBus> parts = new LinkedHashMap<>();
        Stream.concat(order.parts().stream().map(Part::name).filter(there::contains), there.stream())
                .distinct()
                .forEach(name -> parts.put(
                        name,
                        new PartBus(
                                order.part(name),
                                new ChannelId("p" + (parts.size() + 1)),
                                sources.files().stream()
                                        .filter(stem -> stem.part().equals(name))
                                        .map(SongSources.Stem::name)
                                        .distinct()
                                        .toList())));
        return parts;
    }

    /** What begins in the song; one that would end after it ends with it. */
    private static Session withSections(Session session, List<Stretch> sections) {
        long length = session.lengthFrames();
        List<Section> inside = new ArrayList<>();
        for (Stretch one : sections) {
            long start = Math.round(one.startSeconds() * session.sampleRateHz());
            long end = Math.min(length, Math.round(one.endSeconds() * session.sampleRateHz()));
            if (start < end) {
                inside.add(new Section(one.name(), start, end));
            }
        }
        return session.withSections(inside);
    }

    /** A strip with a correction on it: the equaliser, then the gain, which order makes no difference. */
    static Strip corrected(Strip strip, Correction correction) {
        Optional<Insert> insert = correction.equaliser().map(settings -> Insert.of(CORRECTION, settings.kind())
                .withProcessor(settings));
        return strip.withTrimDb(correction.gainDb())
                .withInserts(insert.map(List::of).orElse(List.of()));
    }
}
