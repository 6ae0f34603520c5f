package waterwheel.core.ports;

import waterwheel.core.errors.DeviceException;

/** A port that does what another does; what looks at the frames that pass extends it. */
public abstract class ForwardingPort implements AudioPort {
    private final AudioPort port;

    protected ForwardingPort(AudioPort port) {
        this.port = port;
    }

    @Override
    public String name() {
        return port.name();
    }

    @Override
    public boolean silent() {
        return port.silent();
    }

    @Override
    public boolean gone() {
        return port.gone();
    }

    @Override
    public int inputs() {
        return port.inputs();
    }

    @Override
    public int outputs() {
        return port.outputs();
    }

    @Override
    public int roundTripFrames() {
        return port.roundTripFrames();
    }

    @Override
    public int heardLaterFrames() {
        return port.heardLaterFrames();
    }

    @Override
    public void open(int sampleRateHz, int maxFrames) throws DeviceException {
        port.open(sampleRateHz, maxFrames);
    }

    @Override
    public void read(float[][] in, int frames) {
        port.read(in, frames);
    }

    @Override
    public void write(float[][] out, int frames) {
        port.write(out, frames);
    }

    @Override
    public void close() {
        port.close();
    }
}
