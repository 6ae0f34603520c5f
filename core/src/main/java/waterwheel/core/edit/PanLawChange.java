package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.List;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Placement;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;

/**
 * What another pan law does to a session, channel by channel.
 *
 * @param keepingLevels whether mono channels' faders make up for it, so that their level where they stand stays
 * @param moved the channels that the law moves, in the session's order
 */
public record PanLawChange(PanLaw from, PanLaw to, boolean keepingLevels, List<Moved> moved) {
    /** Less than this is no move, in dB. */
    private static final double NOTHING_DB = 0.005;

    /**
     * A channel that the law moves.
     *
     * @param lawDb change of its level over both sides together that the law brings, in dB
     * @param monoDb change of its level when left and right are summed, in dB
     * @param faderDb by how much its fader makes up for it, in dB
     */
    public record Moved(ChannelId channel, double lawDb, double monoDb, double faderDb) {
        /** What is left of the change, in dB. */
        public double levelDb() {
            return lawDb + faderDb;
        }
    }

    public PanLawChange {
        moved = List.copyOf(moved);
    }

    /** What the change moves. */
    public static PanLawChange of(Session session, PanLaw to, boolean keepingLevels) {
        List<Moved> moved = new ArrayList<>();
        for (Channel channel : session.channels()) {
            double[][] before = channel.strip().placement().gains(session.panLaw(), channel.planes());
            double[][] after = channel.strip().placement().gains(to, channel.planes());
            double law = ratioDb(power(after), power(before));
            double mono = ratioDb(monoPower(after), monoPower(before));
            double fader = keepingLevels && channel.planes() == 1
                    ? movedDb(channel.strip(), madeUpDb(channel.strip(), law))
                    : 0;
            if (Math.abs(law) > NOTHING_DB || Math.abs(mono) > NOTHING_DB) {
                moved.add(new Moved(channel.id(), law, mono, fader));
            }
        }
        return new PanLawChange(session.panLaw(), to, keepingLevels, moved);
    }

    /** Where a fader makes up for what a law does, as far as it reaches, in dB. */
    private static double madeUpDb(Strip strip, double lawDb) {
        return Math.min(strip.standingDb(Strip.FADER) - lawDb, Strip.FADER_TOP_DB);
    }

    /** By how much a fader moves, in dB; a silent one stays as it is. */
    private static double movedDb(Strip strip, double toDb) {
        return Double.isInfinite(toDb) ? 0 : toDb - strip.standingDb(Strip.FADER);
    }

    /** Of signals alike in power on every plane and not alike otherwise. */
    private static double power(double[][] gains) {
        double sum = 0;
        for (double[] side : gains) {
            for (double gain : side) {
                sum += gain * gain;
            }
        }
        return sum;
    }

    private static double monoPower(double[][] gains) {
        double sum = 0;
        for (int plane = 0; plane < gains[0].length; plane++) {
            sum += Math.pow(gains[0][plane] + gains[1][plane], 2);
        }
        return sum;
    }

    private static double ratioDb(double after, double before) {
        return 10 * Math.log10(after / before);
    }

    /** The change as one undoable step. */
    public Edit edit() {
        return new Edit("Pan law " + to.label() + (keepingLevels ? ", keeping levels" : ""), session -> {
            Session out = session;
            if (keepingLevels) {
                // Also those that are not listed: their sends may stand elsewhere than they do.
                for (Channel channel : session.channels()) {
                    out = out.withChannel(channel.id(), this::compensated);
                }
            }
            return out.withPanLaw(to);
        });
    }

    /** A mono channel with its fader and its sends' levels moved against the law. */
    private Channel compensated(Channel channel) {
        if (channel.planes() != 1) {
            return channel;
        }
        Strip strip = channel.strip();
        double fader = madeUpDb(strip, lawDb(strip.placement()));
        double moved = movedDb(strip, fader);
        List<Send> sends = strip.sends().stream()
                .map(send -> send.withStandingDb(Math.min(
                        Strip.FADER_TOP_DB,
                        send.standingDb()
                                - lawDb(send.placement().orElse(strip.placement()))
                                - (send.preFader() ? 0 : moved))))
                .toList();
        return channel.withStrip(strip.withStandingDb(Strip.FADER, fader).withSends(sends));
    }

    private double lawDb(Placement placement) {
        return ratioDb(power(placement.gains(to, 1)), power(placement.gains(from, 1)));
    }
}
