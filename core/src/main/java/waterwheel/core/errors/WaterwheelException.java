package waterwheel.core.errors;

import org.jspecify.annotations.Nullable;
import waterwheel.core.units.PlainText;

/** A refusal that names the thing and the remedy, in the words of the screen. */
public abstract sealed class WaterwheelException extends Exception
        permits AudioFileException,
                SessionFileException,
                RoutingException,
                RenderException,
                DeviceException,
                NotesFileException {
    private static final long serialVersionUID = 1L;

    /** What names and values from outside may add to a sentence is bounded. */
    private static final int MOST_CHARACTERS = 600;

    private final String problem;
    private final String remedy;

    WaterwheelException(String problem, String remedy, @Nullable Throwable cause) {
        super(cause);
        this.problem = PlainText.of(problem, MOST_CHARACTERS);
        this.remedy = PlainText.of(remedy, MOST_CHARACTERS);
    }

    /** Problem and remedy, one after the other. */
    @Override
    public final String getMessage() {
        return problem + " " + remedy;
    }

    /** One sentence: what is wrong, with the name of the thing that is. */
    public final String problem() {
        return problem;
    }

    /** One sentence: what the user can do about it. */
    public final String remedy() {
        return remedy;
    }
}
