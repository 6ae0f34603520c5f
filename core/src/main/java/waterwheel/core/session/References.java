package waterwheel.core.session;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;

/** What the channels of a session name must be there: sources, buses, inserts with keys, channels that are tapped. */
final class References {
    private References() {}

    /**
     * Checks the references of a session.
     *
     * @throws IllegalArgumentException at the first that leads nowhere
     */
    static void check(List<AudioSource> sources, List<Channel> channels, ChannelId mainId, List<Parked> parked) {
        checkReferences(sources, channels, mainId);
        checkParked(sources, channels, parked);
    }

    private static void checkReferences(List<AudioSource> sources, List<Channel> channels, ChannelId mainId) {
        Set<SourceId> sourceIds = new HashSet<>();
        for (AudioSource source : sources) {
            if (!sourceIds.add(source.id())) {
                throw new IllegalArgumentException("sources: '" + source.id() + "' twice (expected: unique ids)");
            }
        }
        Set<ChannelId> ids = new HashSet<>();
        Set<ChannelId> buses = new HashSet<>();
        for (Channel channel : channels) {
            if (!ids.add(channel.id())) {
                throw new IllegalArgumentException("channels: '" + channel.id() + "' twice (expected: unique ids)");
            }
            if (channel instanceof Bus) {
                buses.add(channel.id());
            }
        }
        if (!buses.contains(mainId)) {
            throw new IllegalArgumentException("mainId: '" + mainId + "' (expected: the id of a bus)");
        }
        for (Channel channel : channels) {
            boolean main = channel.id().equals(mainId);
            if (channel.strip().output() instanceof Output.ToBus(ChannelId bus) && (main || !buses.contains(bus))) {
                throw new IllegalArgumentException("output of '" + channel.id() + "': '" + bus + "' (expected: "
                        + (main ? "nowhere for the main bus" : "the id of a bus") + ")");
            }
            checkBranches(channel, channels, buses, main);
            checkFiles(channel, sourceIds);
            if (channel instanceof Track track) {
                track.tap()
                        .map(Tap::channel)
                        .filter(from -> !ids.contains(from))
                        .ifPresent(from -> {
                            throw new IllegalArgumentException(
                                    "tap of '" + channel.id() + "': '" + from + "' (expected: the id of a channel)");
                        });
            }
        }
    }

    private static void checkFiles(Channel channel, Set<SourceId> sources) {
        checkResponses(channel, sources);
        if (channel instanceof Track track) {
            for (Clip clip : track.clips()) {
                if (!sources.contains(clip.source())) {
                    throw new IllegalArgumentException("clip of '" + channel.id() + "': source '" + clip.source()
                            + "' (expected: the id of a source)");
                }
            }
            for (SourceId sample : track.played().stream()
                    .flatMap(played -> played.instrument().sources().stream())
                    .toList()) {
                if (!sources.contains(sample)) {
                    throw new IllegalArgumentException("instrument of '" + channel.id() + "': source '" + sample
                            + "' (expected: the id of a source)");
                }
            }
        }
    }

    private static void checkResponses(Channel channel, Set<SourceId> sources) {
        channel.strip()
                .freeze()
                .filter(freeze -> !sources.contains(freeze.source()))
                .ifPresent(freeze -> {
                    throw new IllegalArgumentException("freeze of '" + channel.id() + "': '" + freeze.source()
                            + "' (expected: the id of a source)");
                });
        channel.strip().freeze().flatMap(Freeze::through).ifPresent(slot -> {
            if (channel.strip().inserts().stream()
                    .noneMatch(insert -> insert.id().equals(slot))) {
                throw new IllegalArgumentException(
                        "freeze of '" + channel.id() + "': '" + slot + "' (expected: one of its slots)");
            }
        });
        for (Insert insert : channel.strip().inserts()) {
            insert.processor().response().filter(id -> !sources.contains(id)).ifPresent(id -> {
                throw new IllegalArgumentException(
                        "response in '" + channel.id() + "': '" + id + "' (expected: the id of a source)");
            });
            insert.processor()
                    .loop()
                    .captures()
                    .filter(c -> !sources.contains(c.source()))
                    .findFirst()
                    .ifPresent(c -> {
                        throw new IllegalArgumentException("capture in '" + channel.id() + "': '" + c.source()
                                + "' (expected: the id of a source)");
                    });
        }
    }

    /** Sends and extra outputs must lead to what is there. */
    private static void checkBranches(Channel channel, List<Channel> channels, Set<ChannelId> buses, boolean main) {
        Set<SlotId> slots = new HashSet<>();
        for (Insert insert : channel.strip().inserts()) {
            if (!slots.add(insert.id())) {
                throw new IllegalArgumentException(
                        "inserts of '" + channel.id() + "': '" + insert.id() + "' twice (expected: unique ids)");
            }
        }
        for (ChannelId bus : channel.strip().extraOutputs()) {
            if (main || !buses.contains(bus)) {
                throw new IllegalArgumentException(
                        "extra output of '" + channel.id() + "': '" + bus + "' (expected: the id of a bus)");
            }
        }
        for (Send send : channel.strip().sends()) {
            boolean known =
                    switch (send.target()) {
                        case Send.ToBus(ChannelId bus) -> !main && buses.contains(bus);
                        case Send.ToKey(ChannelId id, SlotId slot) ->
                            IdList.find(channels, id, Channel::id)
                                    .map(c -> hasKeyInput(c.strip(), slot))
                                    .orElse(false);
                    };
            if (!known) {
                throw new IllegalArgumentException("send of '" + channel.id() + "' to '"
                        + send.target().channel() + "' (expected: a bus, or an insert with a key input)");
            }
        }
    }

    private static boolean hasKeyInput(Strip strip, SlotId slot) {
        return strip.inserts().stream()
                .anyMatch(i -> i.id().equals(slot) && i.processor().kind().keyed());
    }

    /** What is parked keeps its files, and its name from others. */
    private static void checkParked(List<AudioSource> sources, List<Channel> channels, List<Parked> parked) {
        Set<SourceId> known = new HashSet<>();
        sources.forEach(source -> known.add(source.id()));
        Set<ChannelId> taken = new HashSet<>();
        channels.forEach(channel -> taken.add(channel.id()));
        for (Parked one : parked) {
            checkFiles(one.channel(), known);
            for (Parked.Along along : one.along()) {
                checkFiles(along.channel(), known);
                if (!taken.add(along.channel().id())) {
                    throw new IllegalArgumentException(
                            "parked: '" + along.channel().id() + "' twice (expected: unique ids)");
                }
            }
        }
    }
}
