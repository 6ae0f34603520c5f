package waterwheel.core.stems;

import waterwheel.core.edit.Groups;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

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
        return Groups.withoutVcas(session, main).withStrip(main, strip -> Strip.unity(strip.output()));
    }
}
