package waterwheel.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.NamedStem;
import waterwheel.core.session.Session;
import waterwheel.core.session.StemDivision;

/** The options that say what stems are made of; what is not said is as the session has it. */
final class DivisionOption {
    @Option(
            names = "--by",
            paramLabel = "tracks|buses|named",
            description = "tracks: a stem of each; buses: one of each bus that feeds the main bus; named: those that"
                    + " were put together by hand. Usual: as the session has it.",
            converter = Words.class)
    private StemDivision.@Nullable By by;

    @Option(
            names = "--returns",
            paramLabel = "shared|apart",
            description = "shared: every stem has its share of returns; apart: each return is a stem of its own."
                    + " Usual: as the session has it.",
            converter = ReturnsWords.class)
    private @Nullable Returns returns;

    @Option(
            names = "--stem",
            paramLabel = "NAME=CHANNEL,...",
            description = "A stem put together of channels, in place of those that the session has; may be given"
                    + " several times.")
    private List<String> stems = List.of();

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec = CommandSpec.create();

    /** Understands the words of the divisions. */
    static final class Words extends WordIn<StemDivision.By> {
        Words() {
            super(StemDivision.By.values(), StemDivision.By::label, "is neither tracks nor buses nor named.");
        }
    }

    /** What becomes of returns. */
    enum Returns {
        SHARED,
        APART
    }

    /** Understands the words for that. */
    static final class ReturnsWords extends WordIn<Returns> {
        ReturnsWords() {
            super(
                    Returns.values(),
                    returns -> returns == Returns.APART ? "apart" : "shared",
                    "is neither shared nor apart.");
        }
    }

    /**
     * The division that was asked for.
     *
     * @throws ParameterException if a stem names a channel that the session has not
     */
    StemDivision of(Session session) {
        StemDivision division = session.stems();
        if (!stems.isEmpty()) {
            List<NamedStem> named = new ArrayList<>();
            for (int i = 0; i < stems.size(); i++) {
                named.add(named(session, stems.get(i), i + 1));
            }
            division = new StemDivision(StemDivision.By.NAMED, division.returnsApart(), named);
        }
        if (by != null) {
            division = division.withBy(by);
        }
        return returns == null ? division : division.withReturnsApart(returns == Returns.APART);
    }

    private NamedStem named(Session session, String text, int number) {
        int equals = text.indexOf('=');
        String name = equals < 0 ? "" : text.substring(0, equals).strip();
        if (name.isEmpty()) {
            throw new ParameterException(
                    spec.commandLine(), "'" + text + "' is no stem; write its name, =, and its channels.");
        }
        List<ChannelId> members = Arrays.stream(text.substring(equals + 1).split(",", -1))
                .map(String::strip)
                .map(one -> Named.channel(spec, "channel", session.channels(), one))
                .map(Channel::id)
                .toList();
        return new NamedStem(new ChannelId("stem-" + number), name, members);
    }
}
