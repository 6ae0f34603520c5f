package waterwheel.desktop.clips;

import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.AudioFile;
import waterwheel.core.audiofile.AudioFiles;
import waterwheel.core.edit.ClipEdits;
import waterwheel.core.edit.Edit;
import waterwheel.core.errors.AudioFileException;
import waterwheel.core.filefacts.Overview;
import waterwheel.core.rides.Curve;
import waterwheel.core.session.Channel;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.sources.AudioSource;
import waterwheel.core.staging.Calm;
import waterwheel.core.work.Progress;
import waterwheel.desktop.model.SessionModel;

/** Which clip is looked at and how closely, where the cursor stands in it, and the gain curve that is proposed for it. */
final class ClipsModel {
    /** How many frames may fill the picture at the closest. */
    private static final long CLOSEST_FRAMES = 32;
    /** A closer look has about two stretches a pixel on a usual screen. */
    private static final int DETAIL_STRETCHES = 4_096;

    private final SessionModel session;
    private final ReadOnlyObjectWrapper<@Nullable View> view = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<@Nullable Detail> detail = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<@Nullable Curve> ghost = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<ClipCurve> curve = new ReadOnlyObjectWrapper<>(ClipCurve.GAIN);
    private final ExecutorService reading = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("waterwheel-waveform").factory());
    private final AtomicInteger wanted = new AtomicInteger();
    private Calm calm = Calm.DEFAULT;
    private boolean active;
    private boolean proposing;

    // Belong to the reading thread.
    private @Nullable AudioFile open;
    private @Nullable AudioSource openSource;

    /**
     * What is looked at.
     *
     * @param index the clip's place among its track's
     * @param from first frame of the clip in sight
     * @param to the frame after the last one in sight
     * @param cursor frame of the clip
     */
    record View(Track track, int index, long from, long to, long cursor) {
        Clip clip() {
            return track.clips().get(index);
        }

        long length() {
            return to - from;
        }

        /** What is drawn: the clip's file, or the frozen sound, which lies on the song's line. */
        Seen seen(Session session) {
            return track.strip()
                    .freeze()
                    .map(freeze -> new Seen(session.source(freeze.source()), clip().startFrames(), true))
                    .orElseGet(() -> new Seen(session.source(clip().source()), clip().offsetFrames(), false));
        }
    }

    /**
     * A file in place of a clip.
     *
     * @param offset the file's frame at the clip's beginning
     */
    record Seen(AudioSource source, long offset, boolean frozen) {}

    /** A closer look at a stretch of a source, in frames of its file. */
    record Detail(AudioSource source, long from, long to, Overview overview) {}

    ClipsModel(SessionModel session) {
        this.session = session;
        session.keep(session.selectedProperty().subscribe(id -> follow()));
        session.keep(session.historyProperty().subscribe(history -> follow()));
    }

    ReadOnlyObjectProperty<@Nullable View> viewProperty() {
        return view.getReadOnlyProperty();
    }

    ReadOnlyObjectProperty<@Nullable Detail> detailProperty() {
        return detail.getReadOnlyProperty();
    }

    /** A curve that is proposed and not accepted yet; null for none. */
    ReadOnlyObjectProperty<@Nullable Curve> ghostProperty() {
        return ghost.getReadOnlyProperty();
    }

    /** Which of the clip's curves is drawn. */
    ReadOnlyObjectProperty<ClipCurve> curveProperty() {
        return curve.getReadOnlyProperty();
    }

    void draw(ClipCurve kind) {
        curve.set(kind);
    }

    SessionModel session() {
        return session;
    }

    Calm calm() {
        return calm;
    }

    void setCalm(Calm value) {
        calm = value;
    }

    /** Only while somebody looks are files read; a look begins with the gain's curve. */
    void setActive(boolean value) {
        active = value;
        curve.set(ClipCurve.GAIN);
        follow();
    }

    /** Keeps to the selected track; a clip that is still there stays in sight as it was. */
    private void follow() {
        if (!active) {
            return;
        }
        Channel channel = session.selectedChannel();
        if (!(channel instanceof Track track) || track.clips().isEmpty()) {
            ghost.set(null);
            view.set(null);
            return;
        }
        View before = view.get();
        if (before != null
                && before.track().id().equals(track.id())
                && before.index() < track.clips().size()) {
            Clip clip = track.clips().get(before.index());
            if (!clip.equals(before.clip())) {
                ghost.set(null);
            }
            if (clip.lengthFrames() == before.clip().lengthFrames()) {
                become(new View(track, before.index(), before.from(), before.to(), before.cursor()));
                return;
            }
        }
        ghost.set(null);
        become(new View(track, 0, 0, track.clips().getFirst().lengthFrames(), 0));
    }

    void showClip(int index) {
        View now = view.get();
        if (now != null && index >= 0 && index < now.track().clips().size()) {
            ghost.set(null);
            long length = now.track().clips().get(index).lengthFrames();
            become(new View(now.track(), index, 0, length, 0));
        }
    }

    private void become(View next) {
        if (!ClipCurve.of(next.track(), next.clip()).contains(curve.get())) {
            curve.set(ClipCurve.GAIN);
        }
        view.set(next);
        look(next);
    }

    /** Zooms by a factor around a frame of the clip; above 1 closer. */
    void zoom(double factor, long around) {
        View now = view.get();
        if (now == null) {
            return;
        }
        long whole = now.clip().lengthFrames();
        long length = Math.clamp(Math.round(now.length() / factor), Math.min(CLOSEST_FRAMES, whole), whole);
        double place = (double) (around - now.from()) / now.length();
        long from = Math.clamp(around - Math.round(place * length), 0, whole - length);
        become(new View(now.track(), now.index(), from, from + length, now.cursor()));
    }

    /** Shows the whole clip. */
    void zoomOut() {
        View now = view.get();
        if (now != null) {
            become(new View(now.track(), now.index(), 0, now.clip().lengthFrames(), now.cursor()));
        }
    }

    /** Shows a place of the clip closely, in the middle. */
    void zoomTo(long frame, long length) {
        View now = view.get();
        if (now != null) {
            long whole = now.clip().lengthFrames();
            long shown = Math.min(whole, length);
            long from = Math.clamp(frame - shown / 2, 0, whole - shown);
            become(new View(now.track(), now.index(), from, from + shown, Math.clamp(frame, 0, whole - 1)));
        }
    }

    /** Moves what is in sight by a part of its length. */
    void scroll(double part) {
        View now = view.get();
        if (now != null) {
            long from = Math.clamp(
                    now.from() + Math.round(part * now.length()), 0, now.clip().lengthFrames() - now.length());
            become(new View(now.track(), now.index(), from, from + now.length(), now.cursor()));
        }
    }

    /** Puts the cursor to a frame of the clip, and brings it into sight. */
    void moveCursor(long frame) {
        View now = view.get();
        if (now == null) {
            return;
        }
        long cursor = Math.clamp(frame, 0, now.clip().lengthFrames() - 1);
        long from = now.from();
        if (cursor < from || cursor >= now.to()) {
            from = Math.clamp(cursor - now.length() / 2, 0, now.clip().lengthFrames() - now.length());
        }
        become(new View(now.track(), now.index(), from, from + now.length(), cursor));
    }

    void edit(Edit edit, String gesture) {
        session.edit(edit, gesture);
    }

    /** Measures the clip and proposes a curve that calms it; says so where none is needed. */
    void proposeCalm() {
        View now = view.get();
        draw(ClipCurve.GAIN);
        if (now == null) {
            return;
        }
        Clip clip = now.clip();
        Calm asked = calm;
        proposing = true;
        // A change overtakes the question, and what it would have proposed.
        var unused = session.questions()
                .clip(now.track(), clip)
                .whenComplete((series, failure) -> Platform.runLater(() -> {
                    proposing = false;
                    View then = view.get();
                    if (failure == null && then != null && then.clip().equals(clip)) {
                        Curve curve = asked.curve(series, clip);
                        ghost.set(curve.isNone() ? null : curve);
                        if (curve.isNone()) {
                            session.tell("No phrase of " + then.track().name()
                                    + " lies further from its average than that range.");
                        }
                    }
                }));
    }

    /** Whether a proposal is being worked out. */
    boolean proposing() {
        return proposing;
    }

    void acceptGhost() {
        View now = view.get();
        Curve curve = ghost.get();
        if (now != null && curve != null) {
            ghost.set(null);
            session.edit(ClipEdits.curve(now.track(), now.index(), curve));
        }
    }

    void dropGhost() {
        ghost.set(null);
    }

    /** Has the stretch in sight read more closely where the file's overview is too coarse for it. */
    private void look(View now) {
        int turn = wanted.incrementAndGet();
        Seen seen = now.seen(session.session());
        AudioSource source = seen.source();
        boolean coarse = source.frames() > 0 && now.length() < source.frames();
        if (!active || !coarse) {
            detail.set(null);
            return;
        }
        long from = now.from() + seen.offset();
        long to = Math.min(source.frames(), from + now.length());
        reading.execute(() -> read(turn, source, from, to));
    }

    private void read(int turn, AudioSource source, long from, long to) {
        if (turn != wanted.get() || from >= to) {
            return;
        }
        try {
            AudioFile file = file(source);
            Overview overview = Overview.of(file, from, to, DETAIL_STRETCHES, new Progress() {
                @Override
                public void at(double part) {}

                @Override
                public boolean stopped() {
                    return turn != wanted.get();
                }
            });
            Platform.runLater(() -> {
                if (turn == wanted.get()) {
                    detail.set(new Detail(source, from, to, overview));
                }
            });
        } catch (CancellationException e) {
            // Another look was asked for meanwhile.
        } catch (AudioFileException e) {
            // The finding about the missing file says more than could be said here.
        }
    }

    private AudioFile file(AudioSource source) throws AudioFileException {
        AudioFile present = open;
        if (present != null && source.equals(openSource)) {
            return present;
        }
        if (present != null) {
            present.close();
            open = null;
        }
        AudioFile opened = AudioFiles.open(session.folder().resolve(source.path()));
        open = opened;
        openSource = source;
        return opened;
    }

    /** Ends reading; the file is closed when the last look is over. */
    void close() {
        wanted.incrementAndGet();
        reading.execute(() -> {
            if (open != null) {
                open.close();
            }
        });
        reading.shutdown();
    }
}
