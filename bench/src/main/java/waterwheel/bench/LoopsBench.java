package waterwheel.bench;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.locks.LockSupport;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.engine.Media;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.json.Json;
import waterwheel.core.playback.Player;
import waterwheel.core.ports.ForwardingPort;
import waterwheel.core.processing.HardwareLoop;
import waterwheel.core.rack.Cable;
import waterwheel.core.rack.Device;
import waterwheel.core.rack.Driver;
import waterwheel.core.rack.Loop;
import waterwheel.core.rack.Rack;
import waterwheel.core.rack.Unit;
import waterwheel.core.rack.UnitId;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.session.Track;
import waterwheel.core.simulation.SimulatedInterface;
import waterwheel.core.simulation.SimulatedUnits;

/** A session with eight loops through simulated units, played in real time: whether the audio ever runs dry. */
final class LoopsBench {
    private static final int LOOPS = 8;
    /** How far a device's buffer runs ahead of what is heard. */
    private static final double BUFFER_SECONDS = 0.02;

    private LoopsBench() {}

    /** A port that looks at the clock. */
    private static final class Watched extends ForwardingPort {
        private final int rate;
        private long began;
        private long frames;
        private long dry;
        private double least = Double.POSITIVE_INFINITY;
        private final double[] millis;
        private int blocks;
        private long readAt;

        Watched(Rack rack, int rate, int seconds) {
            super(new SimulatedInterface(rack, true));
            this.rate = rate;
            millis = new double[seconds * 400];
        }

        @Override
        public void read(float[][] in, int count) {
            readAt = System.nanoTime();
            super.read(in, count);
        }

        @Override
        public void write(float[][] out, int count) {
            long now = System.nanoTime();
            if (began == 0) {
                began = now;
            }
            double ahead = (double) frames / rate - (now - began) * 1e-9 + BUFFER_SECONDS;
            // The first second, until memory and files are there, is not counted.
            if (frames > rate) {
                least = Math.min(least, ahead);
                dry += ahead < 0 ? 1 : 0;
                if (blocks < millis.length) {
                    millis[blocks++] = (now - readAt) * 1e-6;
                }
            }
            frames += count;
            super.write(out, count);
        }
    }

    static String run(int seconds, Path folder) throws Exception {
        NoiseSession made = new NoiseSession(folder, seconds + 2, SampleEncoding.PCM_24);
        List<String> kinds = List.copyOf(SimulatedUnits.names().keySet());
        List<Unit> units = new ArrayList<>();
        List<Cable> cables = new ArrayList<>();
        for (int i = 1; i <= LOOPS; i++) {
            made.addTrack(Strip.unity(Output.to(NoiseSession.MAIN)).withTrimDb(-12));
            UnitId id = new UnitId("u" + i);
            Unit unit = SimulatedUnits.unit(kinds.get(i % kinds.size()), id);
            // The interface has eight ports, so every loop is mono.
            units.add(new Unit(
                    id,
                    unit.name(),
                    1,
                    unit.expects(),
                    unit.reamplifier(),
                    unit.knobs(),
                    unit.simulation(),
                    unit.notes()));
            cables.add(new Cable(Optional.of(id), i, i));
        }
        Session session = made.whole();
        session = session.withRack(new Rack(Driver.SIMULATED, 1, List.of(), units, cables));
        for (int i = 1; i <= LOOPS; i++) {
            Insert slot = Insert.of(new SlotId("hw"), HardwareLoop.KIND)
                    .withLoop(new Loop(Optional.of(new UnitId("u" + i)), i, i, Optional.empty(), Optional.empty()));
            session = session.withChannel(new ChannelId("track" + (i - 1)), c -> ((Track) c).withPlanes(1))
                    .withStrip(new ChannelId("track" + (i - 1)), s -> s.withInserts(List.of(slot)));
        }
        Watched port = new Watched(session.rack(), session.sampleRateHz(), seconds + 2);
        try (Media media = Media.open(session, folder);
                Player player = new Player(session, media, port)) {
            player.start();
            LockSupport.parkNanos((seconds + 1) * 1_000_000_000L);
            player.stop();
        } finally {
            NoiseSession.delete(folder);
        }
        double[] blocks = Arrays.copyOf(port.millis, port.blocks);
        Arrays.sort(blocks);
        ObjectNode node = Json.object();
        node.put("bench", LOOPS + " loops through simulated units, played in real time");
        node.put("seconds", seconds);
        node.put("blockFrames", Device.USUAL_BLOCK_FRAMES);
        node.put("ranDry", port.dry);
        node.set("leastAheadMilliseconds", Json.figure(1_000 * port.least, 2));
        node.set("medianMilliseconds", Json.figure(blocks[blocks.length / 2], 3));
        node.set("percentile999Milliseconds", Json.figure(blocks[(int) (0.999 * blocks.length)], 3));
        node.set("slowestMilliseconds", Json.figure(blocks[blocks.length - 1], 3));
        return Json.compact(node);
    }
}
