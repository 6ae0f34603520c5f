package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import waterwheel.core.edit.RackEdits;
import waterwheel.core.engine.LiveLoops;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.engine.StemPart;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.StemCapture;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;

/**
 * A stem's share of the session. A return cannot be split: what a loop on a bus brings back of a stem is known only when
 * that stem alone was sent, which takes a pass of its own.
 *
 * @param stem the id of the channel, or of the named stem, that it is
 * @param name what the stem is called
 * @param tracks that sound in it
 * @param returns that sound in it with all that is sent to them
 * @param otherReturns that are in other stems with all that is sent to them
 * @param sharesGain whether buses turn it by the gain that the whole session asks for
 */
public record StemShare(
        ChannelId stem,
        String name,
        Set<ChannelId> tracks,
        Set<ChannelId> returns,
        Set<ChannelId> otherReturns,
        boolean sharesGain) {
    public StemShare {
        tracks = Set.copyOf(tracks);
        returns = Set.copyOf(returns);
        otherReturns = Set.copyOf(otherReturns);
    }

    private StemPart part() {
        return new StemPart(track -> tracks.contains(track.id()), returns, otherReturns, sharesGain);
    }

    /** The stem's plan, with what its loops have of it. */
    public Plan plan(Session session, Media media) {
        return PlanCompiler.compile(fitted(session, media), part());
    }

    /** The stem's plan with some loops through an interface. */
    Plan forCapture(Session fitted, LiveLoops loops) {
        return PlanCompiler.forCapture(fitted, part(), loops);
    }

    /** How it stands with the slots that are heard in it. */
    public List<SlotState> states(Session session, Media media) {
        Session fitted = fitted(session, media);
        return Captures.ofStem(fitted, PlanCompiler.compile(fitted, part()), media);
    }

    /** The slots that have to be captured for it. */
    public Set<HardwareSlot> wanting(Session session, Media media) {
        return states(session, media).stream()
                .filter(SlotState::wanting)
                .map(SlotState::slot)
                .collect(Collectors.toSet());
    }

    /**
     * The session as this stem plays it: each loop with the one recording, of this stem or of the whole, that is of what it
     * is sent here.
     */
    Session fitted(Session session, Media media) {
        List<HardwareSlot> slots = HardwareSlot.of(session);
        Session out = session;
        for (HardwareSlot slot : slots) {
            out = changed(out, slot, loop -> loop.withShares(List.of()));
        }
        // What a slot is sent may hang on what another brings back, which then is known one round later.
        for (int round = 0; round < slots.size(); round++) {
            Session before = out;
            Plan plan = PlanCompiler.compile(before, part());
            List<SignalKey> names = SignalKey.ofContent(plan, media);
            for (HardwareSlot slot : slots) {
                int sent = Captures.sent(plan, slot, false);
                List<StemCapture> right = new ArrayList<>();
                if (sent >= 0) {
                    Loop loop = slot.insert(session).processor().loop();
                    String name = Captures.name(names.get(sent), loop);
                    candidates(loop)
                            .filter(capture -> capture.madeOf().equals(name))
                            .findFirst()
                            .ifPresent(capture -> right.add(new StemCapture(stem.value(), capture)));
                }
                out = changed(out, slot, loop -> loop.withShares(right));
            }
            if (out.equals(before)) {
                return out;
            }
        }
        return out;
    }

    /** Its own before that of the whole, which it is where nothing else is on the bus. */
    private Stream<Capture> candidates(Loop loop) {
        return Stream.concat(
                loop.shares().stream()
                        .filter(share -> share.stem().equals(stem.value()))
                        .map(StemCapture::capture),
                loop.capture().stream());
    }

    private static Session changed(Session session, HardwareSlot slot, UnaryOperator<Loop> change) {
        return RackEdits.loop(session.channel(slot.channel()), slot.slot(), change)
                .apply(session);
    }
}
