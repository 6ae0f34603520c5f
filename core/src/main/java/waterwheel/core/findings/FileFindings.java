package waterwheel.core.findings;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import org.jspecify.annotations.Nullable;
import waterwheel.core.edit.Edits;
import waterwheel.core.filefacts.FileFacts;
import waterwheel.core.intake.IntakeEdits;
import waterwheel.core.levels.SessionLevels;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.Flattening;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.LevelText;

/** What there is to say about the files of a session, each by itself and as a set. */
final class FileFindings {
    /** A mean further from zero than this is worth a word, linear: -46 dB. */
    private static final double MOST_DC = 0.005;
    /** Files of one export may end a moment apart; more is a question. */
    private static final double UNLIKE_SECONDS = 1;

    private final SessionLevels levels;
    private final Session session;
    private final FindingList found;

    FileFindings(SessionLevels levels, FindingList found) {
        this.levels = levels;
        this.session = levels.session();
        this.found = found;
    }

    void judge() {
        for (Track track : session.tracks()) {
            judgeFiles(track);
            judgeSamples(track);
            judgeSides(track);
        }
        judgeTogether();
    }

    private void judgeFiles(Track track) {
        for (Clip clip : track.clips()) {
            AudioSource source = session.source(clip.source());
            FileFacts facts = levels.files().get(source.id());
            if (facts == null) {
                if (levels.complete()) {
                    found.add(
                            Finding.Rule.MISSING_FILE,
                            track,
                            track.name() + " is silent where its file " + source.fileName() + " should be: "
                                    + levels.problems().getOrDefault(source.id(), "the file is missing."),
                            "Put the file back at " + source.path() + " and open the session again.",
                            OptionalDouble.empty(),
                            null);
                }
                continue;
            }
            judgeContent(track, source);
            if (facts.nonFiniteSamples() > 0) {
                found.add(
                        Finding.Rule.NOT_NUMBERS,
                        track,
                        facts.nonFiniteSamples() + " samples in the file " + source.fileName() + " of " + track.name()
                                + " are no numbers; they play as silence.",
                        "Export the file again from where it came.",
                        OptionalDouble.empty(),
                        null);
            }
            lost(clip, facts).ifPresent(lost -> {
                double first = lost.firstSeconds()
                        + (double) (clip.startFrames() - clip.offsetFrames()) / session.sampleRateHz();
                found.add(
                        Finding.Rule.FLATTENED_SAMPLES,
                        track,
                        track.name() + " was flattened at full scale before it came here: " + lost.samples()
                                + " samples in " + lost.runs()
                                + " places. Turning it down does not bring them back.",
                        "Ask for another take or a float copy; a lower trim only keeps it from getting worse.",
                        OptionalDouble.of(Math.max(0, first)),
                        null);
            });
            if (facts.oversSamples() > 0) {
                found.add(
                        Finding.Rule.HARMLESS_OVERS,
                        track,
                        track.name() + " goes over full scale in its float file (" + facts.oversSamples()
                                + " samples). That is no loss: turned down, every sample is there.",
                        "Turn its trim down to where it belongs.",
                        OptionalDouble.empty(),
                        null);
            }
        }
    }

    /** What an instrument cannot play, once for each file. */
    private void judgeSamples(Track track) {
        for (SourceId id : track.played().stream()
                .flatMap(played -> played.instrument().sources().stream())
                .toList()) {
            AudioSource source = session.source(id);
            if (levels.problems().containsKey(id)) {
                found.add(
                        Finding.Rule.MISSING_FILE,
                        track,
                        track.name() + " misses its sample " + source.fileName() + ": "
                                + levels.problems().get(id),
                        "Put the file back at " + source.path() + " and open the session again.",
                        OptionalDouble.empty(),
                        null);
            }
            judgeContent(track, source);
        }
    }

    private void judgeContent(Track track, AudioSource source) {
        String hash = levels.changed().get(source.id());
        if (hash != null) {
            found.add(
                    Finding.Rule.CHANGED_FILE,
                    track,
                    "The file " + source.fileName() + " of " + track.name()
                            + " holds other audio than when the session was made, of the same length.",
                    "Put the original back, or take the file as it is now.",
                    OptionalDouble.empty(),
                    IntakeEdits.takeAsItIs(source, hash));
        }
    }

    /** What a file lost: in itself, or in the one that it was converted from. */
    private Optional<Flattening> lost(Clip clip, FileFacts facts) {
        return facts.flattening().or(() -> session.source(clip.source()).flattening());
    }

    /** Faults between the two sides of a stereo file, and of its zero line. */
    private void judgeSides(Track track) {
        FileFacts facts = onlyFile(track);
        if (facts == null || facts.silent()) {
            return;
        }
        if (track.planes() == 2 && facts.sidesIdentical()) {
            found.add(
                    Finding.Rule.IDENTICAL_SIDES,
                    track,
                    track.name() + " is a stereo file whose two sides are the same.",
                    "Make it mono: it is one signal, and then follows the pan law.",
                    OptionalDouble.empty(),
                    IntakeEdits.leftSideOnly(track));
        } else if (track.planes() == 2 && facts.sidesInverted()) {
            found.add(
                    Finding.Rule.INVERTED_SIDES,
                    track,
                    "The right side of " + track.name()
                            + " is its left side upside down: in mono nothing is left of it.",
                    "Make it mono, which takes the left side alone.",
                    OptionalDouble.empty(),
                    IntakeEdits.leftSideOnly(track));
        } else if (track.planes() == 2 && facts.silentSide() >= 0) {
            boolean left = facts.silentSide() == 0;
            found.add(
                    Finding.Rule.SILENT_SIDE,
                    track,
                    "The " + (left ? "left" : "right") + " side of " + track.name() + " is silent.",
                    "Make it mono, of the side that sounds.",
                    OptionalDouble.empty(),
                    IntakeEdits.oneSideOnly(track, left ? Clip.Side.RIGHT : Clip.Side.LEFT));
        }
        if (Math.abs(facts.dcOffset()) > MOST_DC) {
            found.add(
                    Finding.Rule.DC_OFFSET,
                    track,
                    track.name() + " stands " + LevelText.signed(100 * Math.abs(facts.dcOffset()), 1, false)
                            + " % of full scale off the zero line, which costs headroom and clicks where it is cut.",
                    "Filter it out with a high-pass before other processing.",
                    OptionalDouble.empty(),
                    null);
        }
    }

    /** The facts of a track that is one file, or null. */
    private @Nullable FileFacts onlyFile(Track track) {
        return track.clips().size() == 1
                ? levels.files().get(track.clips().getFirst().source())
                : null;
    }

    /** What is wrong only among the tracks as a set. */
    private void judgeTogether() {
        Map<List<Long>, Track> bySamples = new HashMap<>();
        Track shortest = null;
        long least = Long.MAX_VALUE;
        long most = 0;
        for (Track track : session.tracks()) {
            FileFacts facts = onlyFile(track);
            if (facts == null || facts.silent()) {
                continue;
            }
            Track first =
                    bySamples.putIfAbsent(List.of(facts.digest(), facts.format().frames()), track);
            if (first != null) {
                found.add(
                        Finding.Rule.SAME_AUDIO_TWICE,
                        track,
                        track.name() + " holds the same audio as " + first.name()
                                + ": together they are 6.0 dB louder.",
                        "Mute one of the two, or replace its file.",
                        OptionalDouble.empty(),
                        track.strip().muted() || first.strip().muted() ? null : Edits.mute(track, true));
            }
            if (!track.cue()) {
                long frames = facts.format().frames();
                most = Math.max(most, frames);
                if (frames < least) {
                    least = frames;
                    shortest = track;
                }
            }
        }
        double seconds = (double) (most - least) / session.sampleRateHz();
        if (shortest != null && seconds > UNLIKE_SECONDS) {
            found.add(
                    Finding.Rule.UNLIKE_LENGTHS,
                    shortest,
                    "The files differ in length by up to " + LevelText.signed(seconds, 1, false) + " s; "
                            + shortest.name() + " is the shortest.",
                    "Check that all files begin at the same place; files of one export are of one length.",
                    OptionalDouble.empty(),
                    null);
        }
    }
}
