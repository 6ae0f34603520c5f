package waterwheel.desktop.intake;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.OptionalDouble;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.audiofile.JoinedChannels;
import waterwheel.core.edit.Edit;
import waterwheel.core.edit.NoteEdits;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.errors.NotesFileException;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.instruments.Instrument;
import waterwheel.core.intake.FileImport;
import waterwheel.core.intake.ImportedFile;
import waterwheel.core.intake.IntakeEdits;
import waterwheel.core.intake.KindProposal;
import waterwheel.core.intake.Relink;
import waterwheel.core.intake.StereoPair;
import waterwheel.core.intake.TrackNames;
import waterwheel.core.notes.MidiNotes;
import waterwheel.core.notes.Notes;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.sources.SourceId;
import waterwheel.core.units.FileStem;
import waterwheel.core.work.Progress;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.Messages;
import waterwheel.desktop.model.SessionModel;

/** What can be done with the files of a session. Work on files runs beside the interface and can be stopped. */
final class IntakeModel {
    private final SessionModel session;
    private final WorkLine work;

    IntakeModel(SessionModel session, WorkLine work) {
        this.session = session;
        this.work = work;
    }

    /** Adds files, and the audio files of folders, as new tracks: one undo step. Files of notes become instruments. */
    void add(List<Path> files) {
        List<Path> notes = files.stream().filter(IntakeModel::holdsNotes).toList();
        List<Path> audio = files.stream().filter(file -> !holdsNotes(file)).toList();
        notes.forEach(this::addNotes);
        if (!audio.isEmpty()) {
            add(audio, false);
        }
    }

    private static boolean holdsNotes(Path file) {
        String name = String.valueOf(file.getFileName()).toLowerCase(Locale.ROOT);
        return name.endsWith(".mid") || name.endsWith(".midi");
    }

    /** Adds a file of notes as a track that the synthesised instrument plays. */
    private void addNotes(Path file) {
        try {
            Notes notes = MidiNotes.read(file, session.session().sampleRateHz()).notes();
            String name = FileStem.of(file);
            session.edit(NoteEdits.addInstrument(
                    name.isBlank() ? "Instrument" : name, Instrument.Synth.PLUCKED, notes, List.of()));
            session.select(session.session().tracks().getLast().id());
            session.tell(
                    name + ": " + notes.notes().size() + " notes. Choose what plays them in the Path, under Notes.");
        } catch (NotesFileException e) {
            session.tell(String.valueOf(e.getMessage()));
        }
    }

    /** @param pairs whether files of more than two channels become stereo tracks */
    private void add(List<Path> files, boolean pairs) {
        FileImport intake = intake(pairs);
        work.start("Taking files in", progress -> intake.takeAll(FileImport.withoutFolders(files), progress), taken -> {
            if (!taken.files().isEmpty()) {
                session.edit(IntakeEdits.add(taken.files()));
                session.select(session.session()
                        .tracks()
                        .get(session.session().tracks().size() - taken.files().size())
                        .id());
            }
            if (taken.split() > 0 && !pairs) {
                offerPairs(files, taken);
            }
            if (!taken.refused().isEmpty()) {
                session.tell(taken.refused().size() + " of the files could not be taken: "
                        + taken.refused().getFirst().getMessage());
            }
        });
    }

    /** What came as mono tracks may be meant as stereo ones; while nothing else was done, it can be taken so instead. */
    private void offerPairs(List<Path> files, FileImport.Taken taken) {
        Session after = session.session();
        String measured = taken.wide().isEmpty() ? "" : taken.wide().getFirst().inWords() + " ";
        String sentence = measured + (taken.split() == 1 ? "A file" : taken.split() + " files")
                + " of more than two channels became mono tracks, one for each channel.";
        session.offer(
                sentence,
                new Messages.Choice(
                        "Take them as pairs", "Undo this and take channels 1 and 2, 3 and 4 … as stereo", () -> {
                            if (session.session().equals(after)) {
                                session.undo();
                                add(files, true);
                            } else {
                                session.tell(
                                        "Other things were changed since. Undo them, or join the tracks you mean.");
                            }
                        }));
    }

    /** The kinds that the tracks' names and measured crest factors speak for, where they have another. */
    Map<ChannelId, Track.Kind> otherKinds() {
        Map<ChannelId, Track.Kind> other = new LinkedHashMap<>();
        for (Track track : session.session().tracks()) {
            OptionalDouble crest = session.levels()
                    .of(track.id())
                    .map(known -> known.first().crestDb())
                    .filter(Double::isFinite)
                    .map(OptionalDouble::of)
                    .orElse(OptionalDouble.empty());
            Track.Kind kind = KindProposal.of(track.name(), crest);
            if (kind != track.kind()) {
                other.put(track.id(), kind);
            }
        }
        return other;
    }

    void takeOtherKinds() {
        Map<ChannelId, Track.Kind> kinds = otherKinds();
        if (!kinds.isEmpty()) {
            session.edit(IntakeEdits.kinds(kinds));
        }
    }

    private FileImport intake(boolean pairs) {
        return new FileImport(session.folder(), session.session().sampleRateHz(), true, pairs);
    }

    /** Gives a track another file. */
    void replace(Track track, Path file) {
        FileImport intake = intake(false);
        work.start("Taking " + file.getFileName() + " in", progress -> intake.take(file, progress), taken -> {
            if (taken.size() == 1) {
                session.edit(IntakeEdits.replace(track, taken.getFirst()));
            } else {
                session.tell(file.getFileName() + " has " + taken.size()
                        + " channels. Add it as new tracks, or choose a mono or stereo file.");
            }
        });
    }

    /** The pairs of mono tracks that look like one stereo recording. */
    List<StereoPair> pairs() {
        return StereoPair.of(session.session());
    }

    /** Joins all such pairs into stereo tracks: one undo step. */
    void joinPairs() {
        List<StereoPair> pairs = pairs();
        Session now = session.session();
        Path folder = session.folder();
        FileImport intake = intake(false);
        work.start("Joining pairs", progress -> joined(pairs, now, folder, intake, progress), files -> {
            List<Edit> edits = new ArrayList<>();
            for (int i = 0; i < pairs.size(); i++) {
                edits.add(IntakeEdits.join(pairs.get(i), files.get(i)));
            }
            String name = pairs.size() == 1 ? edits.getFirst().name() : pairs.size() + " stereo tracks";
            session.edit(Edit.together(name, edits));
        });
    }

    private static List<ImportedFile> joined(
            List<StereoPair> pairs, Session session, Path folder, FileImport intake, Progress progress)
            throws WaterwheelException {
        List<ImportedFile> files = new ArrayList<>();
        for (int i = 0; i < pairs.size(); i++) {
            StereoPair pair = pairs.get(i);
            AudioFile left = AudioFiles.open(file(session, folder, pair.left()));
            AudioFile right;
            try {
                right = AudioFiles.open(file(session, folder, pair.right()));
            } catch (AudioFileException e) {
                left.close();
                throw e;
            }
            try (JoinedChannels both = new JoinedChannels(left, right)) {
                files.add(intake.write(
                        both, pair.name(), progress.part((double) i / pairs.size(), (i + 1.0) / pairs.size())));
            }
        }
        return files;
    }

    private static Path file(Session session, Path folder, Track track) {
        return folder.resolve(session.source(track.clips().getFirst().source()).path());
    }

    /** The names that would be cleaner than those that the tracks have; empty where all are clean. */
    Map<ChannelId, String> cleanNames() {
        List<Track> tracks = session.session().tracks();
        List<String> names = TrackNames.of(tracks.stream().map(Track::name).toList());
        Map<ChannelId, String> changed = new LinkedHashMap<>();
        for (int i = 0; i < tracks.size(); i++) {
            if (!names.get(i).equals(tracks.get(i).name())) {
                changed.put(tracks.get(i).id(), names.get(i));
            }
        }
        return changed;
    }

    void takeCleanNames() {
        Map<ChannelId, String> names = cleanNames();
        if (!names.isEmpty()) {
            session.edit(IntakeEdits.names(names));
        }
    }

    /** The sources whose files are gone. */
    List<AudioSource> missing() {
        return Relink.missing(session.session(), session.folder());
    }

    /** Looks for missing files below a folder and points the session to what is found. */
    void relink(Path folder) {
        List<AudioSource> missing = missing();
        work.start("Looking for files", progress -> Relink.find(missing, folder, progress), found -> {
            if (!found.isEmpty()) {
                session.edit(Relink.edit(found));
            }
            session.tell(inWords(missing, found));
        });
    }

    private static String inWords(List<AudioSource> missing, Map<SourceId, Path> found) {
        return found.size() + " of " + missing.size() + " missing files found."
                + (found.size() < missing.size() ? " The others are not there under their names and lengths." : "");
    }
}
