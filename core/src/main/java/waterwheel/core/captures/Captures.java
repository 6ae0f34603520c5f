package waterwheel.core.captures;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import waterwheel.core.engine.Media;
import waterwheel.core.engine.Plan;
import waterwheel.core.engine.PlanCompiler;
import waterwheel.core.engine.SignalId;
import waterwheel.core.engine.SignalKey;
import waterwheel.core.errors.RenderException;
import waterwheel.core.inserts.Insert;
import waterwheel.core.rack.Capture;
import waterwheel.core.rack.Loop;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;

/** Which hardware slots have a capture that belongs to what they are sent. */
public final class Captures {
    private Captures() {}

    /** How it stands with every hardware slot of a session. */
    public static List<SlotState> of(Session session, Media media) {
        return of(session, PlanCompiler.compile(session), media);
    }

    /**
     * How it stands with every hardware slot in a plan of the whole session.
     *
     * @param plan without loops that run through an interface
     */
    public static List<SlotState> of(Session session, Plan plan, Media media) {
        return of(session, plan, media, false);
    }

    /** How it stands with every hardware slot in the plan of a stem; its session plays of each loop what is of the stem. */
    static List<SlotState> ofStem(Session fitted, Plan plan, Media media) {
        return of(fitted, plan, media, true);
    }

    /** What a recording is of: the signal that was sent, and the ports. */
    static String name(SignalKey sent, Loop loop) {
        return sent.hex() + " " + loop.sendPort() + " " + loop.returnPort();
    }

    private static List<SlotState> of(Session session, Plan plan, Media media, boolean stem) {
        List<HardwareSlot> slots = HardwareSlot.of(session);
        if (slots.isEmpty()) {
            return List.of();
        }
        BitSet heard = new BitSet();
        heard.set(plan.output());
        heard.set(plan.monitor());
        for (int i = 0; i < plan.signals().size(); i++) {
            if (plan.signals().get(i).id().point() == SignalId.Point.PAIR) {
                heard.set(i);
            }
        }
        BitSet reaching = heard(slots, plan, heard);
        List<SignalKey> names = SignalKey.ofContent(plan, media);
        List<SlotState> states = new ArrayList<>();
        for (HardwareSlot slot : slots) {
            states.add(state(session, slot, plan, media, reaching, names, stem));
        }
        return states;
    }

    /** What is heard hangs on what it was sent, although the plan plays a recording there. */
    private static BitSet heard(List<HardwareSlot> slots, Plan plan, BitSet wanted) {
        BitSet reaching = plan.reaching(wanted);
        BitSet more = (BitSet) reaching.clone();
        for (HardwareSlot slot : slots) {
            for (boolean whole : new boolean[] {false, true}) {
                int back = returned(plan, slot, whole);
                if (back >= 0 && reaching.get(back)) {
                    more.set(sent(plan, slot, whole));
                }
            }
        }
        return more.equals(reaching) ? reaching : heard(slots, plan, more);
    }

    private static SlotState state(
            Session session,
            HardwareSlot slot,
            Plan plan,
            Media media,
            BitSet reaching,
            List<SignalKey> names,
            boolean stem) {
        Insert insert = slot.insert(session);
        Loop loop = insert.processor().loop();
        String madeOf = "";
        boolean used = false;
        boolean right = true;
        boolean known = true;
        // In the plan of a stem a bus may be there twice: its share, and the whole that a key listens to.
        for (boolean whole : new boolean[] {false, true}) {
            int sent = sent(plan, slot, whole);
            if (sent < 0) {
                continue;
            }
            String name = name(names.get(sent), loop);
            madeOf = madeOf.isEmpty() ? name : madeOf;
            if (reaching.get(returned(plan, slot, whole)) && !plan.silent(sent)) {
                used = true;
                Optional<Capture> played = stem && !whole ? loop.share() : loop.capture();
                known &= played.isPresent() || session.channel(slot.channel()) instanceof Track;
                right &= played.map(Capture::madeOf).equals(Optional.of(name));
            }
        }
        return new SlotState(slot, used ? state(loop, media, known, right) : SlotState.State.UNUSED, madeOf);
    }

    /**
     * How it stands with a slot that is heard.
     *
     * @param known whether what its channel sends here was ever captured
     */
    private static SlotState.State state(Loop loop, Media media, boolean known, boolean right) {
        if (!loop.patched()) {
            return SlotState.State.UNPATCHED;
        }
        if (!known || loop.capture().isEmpty()) {
            return SlotState.State.MISSING;
        }
        if (!loop.captures().allMatch(capture -> media.holds(capture.source()))) {
            return SlotState.State.LOST;
        }
        return right ? SlotState.State.FRESH : SlotState.State.STALE;
    }

    static int sent(Plan plan, HardwareSlot slot, boolean whole) {
        return plan.find(
                new SignalId(slot.channel(), SignalId.Point.SENT, slot.slot().value(), whole));
    }

    static int returned(Plan plan, HardwareSlot slot, boolean whole) {
        return plan.find(new SignalId(
                slot.channel(), SignalId.Point.RETURNED, slot.slot().value(), whole));
    }

    /**
     * In how few passes some slots can be captured: those of one pass do not wait for each other, those of a later one
     * hear what an earlier one brings back. A slot behind one that is captured anew is captured anew as well.
     *
     * @param wanting what is to be captured
     * @return by pass; empty where nothing is
     */
    public static List<List<HardwareSlot>> passes(Session session, Set<HardwareSlot> wanting) {
        // With every loop open, what comes back hangs on what is sent.
        Plan plan = PlanCompiler.forCapture(session, (channel, insert) -> true);
        List<HardwareSlot> slots = HardwareSlot.of(session);
        Map<HardwareSlot, Integer> pass = new HashMap<>();
        // No slot hears itself, so after as many rounds as there are slots nothing changes any more.
        for (int round = 0; round < slots.size(); round++) {
            for (HardwareSlot slot : slots) {
                BitSet sent = new BitSet();
                sent.set(sent(plan, slot, false));
                BitSet before = plan.reaching(sent);
                int latest = wanting.contains(slot) ? 0 : -1;
                for (HardwareSlot other : slots) {
                    if (!other.equals(slot) && before.get(returned(plan, other, false)) && pass.containsKey(other)) {
                        latest = Math.max(latest, pass.getOrDefault(other, 0) + 1);
                    }
                }
                if (latest >= 0 && slot.insert(session).processor().loop().patched()) {
                    pass.put(slot, latest);
                }
            }
        }
        List<List<HardwareSlot>> passes = new ArrayList<>();
        int count = pass.values().stream().mapToInt(p -> p + 1).max().orElse(0);
        for (int p = 0; p < count; p++) {
            int number = p;
            passes.add(slots.stream()
                    .filter(slot -> pass.getOrDefault(slot, -1) == number)
                    .toList());
        }
        return passes;
    }

    /**
     * Refuses to render a plan whose hardware is not captured.
     *
     * @param what is rendered, as the beginning of a sentence
     * @throws RenderException if a slot that is heard has no capture of what it is sent
     */
    public static void refuseOpen(Session session, Plan plan, Media media, String what) throws RenderException {
        refuseOpen(session, of(session, plan, media), what, "Capture it first");
    }

    /**
     * Refuses to render a stem whose hardware is not captured for it.
     *
     * @throws RenderException likewise
     */
    public static void refuseOpen(Session session, StemShare share, Media media) throws RenderException {
        refuseOpen(session, share.states(session, media), "The stem " + share.name(), "Capture the stems first");
    }

    /** The slots because of which a session cannot be rendered as it is, each once with how it stands; empty for none. */
    public static String openInWords(Session session, List<SlotState> states) {
        return states.stream()
                .filter(SlotState::open)
                .map(state -> state.slot().label(session) + " (" + state.state().label() + ")")
                .distinct()
                .collect(Collectors.joining(", "));
    }

    private static void refuseOpen(Session session, List<SlotState> states, String what, String remedy)
            throws RenderException {
        List<SlotState> open = states.stream().filter(SlotState::open).toList();
        if (open.isEmpty()) {
            return;
        }
        throw new RenderException(
                what + " goes through hardware that is not captured as it is now: " + openInWords(session, open) + ".",
                open.stream().anyMatch(SlotState::wanting)
                        ? remedy + ", bypass it, or ask for an incomplete render."
                        : "Patch it to ports and capture it, bypass it, or ask for an incomplete render.");
    }
}
