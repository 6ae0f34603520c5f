package waterwheel.core.stems;

import java.util.List;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;

/** Where stems and mix are taken. */
public enum StemTap {
    /** Behind the main bus's processing, fader and placement. */
    AFTER_MAIN("after-main"),
    /** Where they come together at the main bus's input, for somebody who does its processing anew. */
    BEFORE_MAIN("before-main");

    private final String label;

    StemTap(String label) {
        this.label = label;
    }

    /** The word on the command line. */
    public String label() {
        return label;
    }

    /** The session with nothing on its main bus that stems are taken before. */
    Session of(Session session) {
        if (this == AFTER_MAIN) {
            return session;
        }
        ChannelId main = session.mainId();
        return session.withStrip(main, strip -> Strip.unity(strip.output()))
                .withVcas(session.vcas().stream()
                        .map(vca -> new Vca(
                                vca.id(),
                                vca.name(),
                                vca.faderDb(),
                                vca.muted(),
                                without(vca.members(), main),
                                without(vca.exempt(), main),
                                vca.rides()))
                        .toList());
    }

    private static List<ChannelId> without(List<ChannelId> ids, ChannelId one) {
        return ids.stream().filter(id -> !id.equals(one)).toList();
    }
}
