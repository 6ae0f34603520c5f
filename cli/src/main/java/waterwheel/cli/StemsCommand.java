package waterwheel.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.json.Json;
import waterwheel.core.session.Session;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.ManifestJson;
import waterwheel.core.stems.NamePattern;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemRequest;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.stems.StemTap;
import waterwheel.core.units.LevelText;

@Command(name = "stems", description = "Renders stems and mix with the proof that they add up.")
final class StemsCommand implements Callable<Integer> {
    @Mixin
    private SessionOptions options = new SessionOptions();

    @Option(names = "--out", required = true, paramLabel = "DIR", description = "Where the files go.")
    private Path out = Path.of("");

    @Mixin
    private FormatOption format = new FormatOption();

    @Mixin
    private DivisionOption division = new DivisionOption();

    @Mixin
    private StretchOption stretch = new StretchOption();

    @Option(
            names = "--tap",
            paramLabel = "after-main|before-main",
            description = "Where stems and mix are taken: behind the main bus's processing and fader, or at its input."
                    + " Usual: after-main.",
            converter = Tap.class)
    private StemTap tap = StemTap.AFTER_MAIN;

    @Mixin
    private TreatmentOption treat = new TreatmentOption();

    @Option(
            names = "--names",
            paramLabel = "PATTERN",
            description = "What files are called, with {number}, {part}, {song}, {rate} and {date} in it."
                    + " Usual: '{number} {part}'.")
    private String names = NamePattern.USUAL.text();

    @Option(names = "--date", paramLabel = "TEXT", description = "What {date} stands for.")
    private String date = "";

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Mixin
    private TailOption tail = new TailOption();

    @Mixin
    private OverwriteOption overwrite = new OverwriteOption();

    @Mixin
    private IncompleteOption incomplete = new IncompleteOption();

    @Option(names = "--mono", description = "Write a stem whose two sides are the same as a file of one side.")
    private boolean mono;

    @Option(names = "--no-cues", description = "Leave clicks and cues out instead of keeping them apart.")
    private boolean noCues;

    /** Understands the words of the taps. */
    static final class Tap extends WordIn<StemTap> {
        Tap() {
            super(StemTap.values(), StemTap::label, "is neither after-main nor before-main.");
        }
    }

    @ArgGroup
    private @Nullable Gain gain;

    /** At most one way to set the one gain of all files; none is as mixed. */
    static final class Gain {
        @Option(
                names = "--stem-peak",
                paramLabel = "DBFS",
                converter = NumberIn.Peak.class,
                description = "Common gain: the loudest stem's peak reaches this level, -80 to 24.")
        private @Nullable Double stemPeakDbfs;

        @Option(
                names = "--mix-headroom",
                paramLabel = "DB",
                converter = NumberIn.Headroom.class,
                description = "Common gain: the mix keeps this headroom under full scale, -24 to 80.")
        private @Nullable Double mixHeadroomDb;

        @Option(
                names = "--mix-loudness",
                paramLabel = "LUFS",
                converter = NumberIn.Loudness.class,
                description = "Common gain: the mix has this integrated loudness, -70 to 12.")
        private @Nullable Double mixLoudnessLufs;

        @Option(
                names = "--each-peak",
                paramLabel = "DBFS",
                converter = NumberIn.Peak.class,
                description = "A gain for each stem: its peak reaches this level, -80 to 24.")
        private @Nullable Double eachPeakDbfs;

        @Option(
                names = "--each-loudness",
                paramLabel = "LUFS",
                converter = NumberIn.Loudness.class,
                description = "A gain for each stem: it has this integrated loudness, -70 to 12.")
        private @Nullable Double eachLoudnessLufs;

        LevelPolicy policy() {
            if (eachPeakDbfs != null) {
                return new LevelPolicy.EachPeak(eachPeakDbfs);
            }
            if (eachLoudnessLufs != null) {
                return new LevelPolicy.EachLoudness(eachLoudnessLufs);
            }
            if (stemPeakDbfs != null) {
                return new LevelPolicy.LoudestStemPeak(stemPeakDbfs);
            }
            if (mixHeadroomDb != null) {
                return new LevelPolicy.MixHeadroom(mixHeadroomDb);
            }
            return mixLoudnessLufs == null ? new LevelPolicy.AsMixed() : new LevelPolicy.MixLoudness(mixLoudnessLufs);
        }
    }

    @Override
    public Integer call() throws Exception {
        NamePattern.problem(names).ifPresent(problem -> {
            throw new ParameterException(spec.commandLine(), problem);
        });
        Session session = options.session();
        options.tellOfChanged(session);
        LevelPolicy policy = gain == null ? new LevelPolicy.AsMixed() : gain.policy();
        StemRequest request = new StemRequest(out, format.format, policy, !noCues)
                .with(new StemSettings(
                        division.of(session), treat.treatment, tap, tail.seconds, stretch.of(session), mono))
                .with(new NamePattern(names, date))
                .withOverwrite(overwrite.overwrite)
                .withIncomplete(incomplete.incomplete);
        StemResult result = Console.withProgress(
                "Rendering", progress -> StemRender.render(session, options.folder(), request, progress));
        if (options.json()) {
            Console.out().print(Json.pretty(ManifestJson.of(result)));
        } else {
            Console.say("Rendered " + result.files().size() + " files to " + out + ", "
                    + policy.inWords() + ", gain of the mix "
                    + LevelText.change(result.forecast().gainDb()) + "."
                    + (result.upToDate() == 0 ? "" : " " + result.upToDate() + " of them were up to date."));
            Console.say(result.proof().inWords());
            if (!result.swept().isEmpty()) {
                Console.say("Removed what the session has no more: " + String.join(", ", result.swept()) + ".");
            }
            if (!result.leftBehind().isEmpty()) {
                Console.say("Not of this render: " + String.join(", ", result.leftBehind()) + ".");
            }
        }
        return result.proof().holds() ? 0 : 1;
    }
}
