package waterwheel.core.demo;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.Processor;
import waterwheel.core.inserts.ProcessorKind;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.processing.Compressor;
import waterwheel.core.processing.Equaliser;
import waterwheel.core.processing.Reverb;
import waterwheel.core.session.Bus;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Send;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Vca;

/** The demo's signal flow: a band bus, a parallel path, two rooms, a key input, VCAs, and a mistake. */
final class DemoFlow {
    private static final ChannelId BAND = new ChannelId("band");
    private static final ChannelId PARALLEL = new ChannelId("parallel-percussion");
    private static final ChannelId HALL = new ChannelId("hall");
    private static final ChannelId ROOM = new ChannelId("short-room");
    private static final ChannelId LEAD = new ChannelId("lead-voice");
    private static final ChannelId HARMONIUM = new ChannelId("harmonium");
    private static final SlotId FIRST = new SlotId("i1");
    private static final SlotId SECOND = new SlotId("i2");
    private static final List<String> CHORUS =
            List.of("chorus-voice-1", "chorus-voice-2", "chorus-voice-3", "chorus-voice-4");

    private DemoFlow() {}

    static Session added(Session plain) {
        List<Channel> channels = new ArrayList<>(plain.channels());
        Output main = Output.to(plain.mainId());
        int place = channels.indexOf(plain.main());
        channels.addAll(
                place,
                List.of(
                        new Bus(
                                PARALLEL,
                                "Parallel percussion",
                                Strip.unity(Output.to(BAND))
                                        .withFaderDb(-20)
                                        .withInserts(List.of(slot(
                                                FIRST,
                                                Compressor.KIND,
                                                Map.of(
                                                        "thresholdDb", -30.0,
                                                        "ratio", 8.0,
                                                        "attackMs", 1.0,
                                                        "makeUpDb", 18.0))))),
                        new Bus(BAND, "Band", Strip.unity(main)),
                        new Bus(HALL, "Hall", Strip.unity(main).withInserts(List.of(hall()))),
                        new Bus(ROOM, "Short room", Strip.unity(main).withInserts(List.of(room())))));
        Session session = plain.withChannels(channels);
        for (String bus : List.of("percussion", "strings", "reeds")) {
            session = session.withStrip(new ChannelId(bus), s -> s.withOutput(Output.to(BAND)));
        }
        session = session.withStrip(new ChannelId("percussion"), s -> s.withExtraOutputs(List.of(PARALLEL)));
        session = inserts(session);
        session = sends(session);
        // Somebody routed the room to the band as well: it reaches the mix twice.
        session = session.withStrip(new ChannelId("room-pair"), s -> s.withExtraOutputs(List.of(BAND)));
        List<ChannelId> voices = new ArrayList<>(List.of(LEAD));
        CHORUS.forEach(voice -> voices.add(new ChannelId(voice)));
        session = session.withVcas(List.of(
                new Vca(new ChannelId("vca-voices"), "Voices", 0, false, voices, List.of()),
                new Vca(
                        new ChannelId("vca-band"),
                        "Band",
                        0,
                        false,
                        List.of(new ChannelId("percussion"), new ChannelId("strings"), new ChannelId("reeds")),
                        List.of())));
        return DemoRides.added(session, FIRST, SECOND);
    }

    private static Session inserts(Session session) {
        return session.withStrip(
                        LEAD,
                        s -> s.withInserts(List.of(
                                slot(
                                        FIRST,
                                        Equaliser.KIND,
                                        Map.of("highPassHz", 90.0, "highPassSlope", 1.0, "bell2Db", 2.5)),
                                slot(
                                        SECOND,
                                        Compressor.KIND,
                                        Map.of("thresholdDb", -18.0, "ratio", 3.0, "makeUpDb", 8.0)))))
                .withStrip(
                        HARMONIUM,
                        s -> s.withInserts(List.of(
                                slot(
                                        FIRST,
                                        Compressor.KIND,
                                        Map.of("thresholdDb", -30.0, "ratio", 2.5, "releaseMs", 300.0)),
                                slot(SECOND, Equaliser.KIND, Map.of("bell2Hz", 2_000.0)))))
                .withStrip(
                        new ChannelId("double-bass-di"),
                        s -> s.withInserts(List.of(slot(
                                FIRST,
                                Equaliser.KIND,
                                Map.of("highPassHz", 35.0, "highPassSlope", 2.0, "lowShelfDb", -2.0)))));
    }

    private static Session sends(Session session) {
        // The harmonium steps back while the lead voice sings.
        Session out =
                session.withStrip(LEAD, s -> s.withSends(List.of(Send.toBus(HALL, -14), Send.toKey(HARMONIUM, FIRST))));
        for (String voice : CHORUS) {
            out = send(out, voice, HALL, -12);
        }
        out = send(out, "low-whistle", HALL, -10);
        for (String name : List.of("fiddle-1", "fiddle-2", "hammered-dulcimer")) {
            out = send(out, name, ROOM, -12);
        }
        return out;
    }

    private static Session send(Session session, String from, ChannelId to, double db) {
        return session.withStrip(new ChannelId(from), s -> s.withSends(List.of(Send.toBus(to, db))));
    }

    private static Insert hall() {
        return slot(FIRST, Reverb.KIND, Map.of("decaySeconds", 2.2, "preDelayMs", 25.0, "sizePercent", 80.0));
    }

    private static Insert room() {
        return slot(FIRST, Reverb.KIND, Map.of("decaySeconds", 0.6, "preDelayMs", 5.0, "sizePercent", 30.0));
    }

    private static Insert slot(SlotId id, ProcessorKind kind, Map<String, Double> settings) {
        Processor processor = Processor.usual(kind);
        for (Map.Entry<String, Double> setting : settings.entrySet()) {
            processor = processor.with(setting.getKey(), setting.getValue());
        }
        return Insert.of(id, kind).withProcessor(processor);
    }
}
