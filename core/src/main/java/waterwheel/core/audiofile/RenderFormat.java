package waterwheel.core.audiofile;

/** What a render is written as. Fixed-point formats are dithered. */
public enum RenderFormat {
    WAV_24("WAV 24-bit", "24", SampleEncoding.PCM_24, ".wav"),
    WAV_32F("WAV 32-bit float", "32f", SampleEncoding.FLOAT_32, ".wav"),
    WAV_16("WAV 16-bit", "16", SampleEncoding.PCM_16, ".wav"),
    FLAC_24("FLAC 24-bit", "flac24", SampleEncoding.PCM_24, ".flac"),
    FLAC_16("FLAC 16-bit", "flac16", SampleEncoding.PCM_16, ".flac");

    private final String label;
    private final String option;
    private final SampleEncoding encoding;
    private final String ending;

    RenderFormat(String label, String option, SampleEncoding encoding, String ending) {
        this.label = label;
        this.option = option;
        this.encoding = encoding;
        this.ending = ending;
    }

    /** The words on screen and in reports. */
    public String label() {
        return label;
    }

    /** The word on the command line. */
    public String option() {
        return option;
    }

    public SampleEncoding encoding() {
        return encoding;
    }

    /** The ending of a file's name, with its dot. */
    public String ending() {
        return ending;
    }
}
