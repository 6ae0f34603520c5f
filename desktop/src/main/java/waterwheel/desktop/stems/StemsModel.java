package waterwheel.desktop.stems;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import javafx.application.Platform;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import org.jspecify.annotations.Nullable;
import waterwheel.core.audiofile.RenderFormat;
import waterwheel.core.captures.CaptureRun;
import waterwheel.core.captures.StemShare;
import waterwheel.core.edit.StemEdits;
import waterwheel.core.errors.WaterwheelException;
import waterwheel.core.session.Session;
import waterwheel.core.stems.LevelPolicy;
import waterwheel.core.stems.NamePattern;
import waterwheel.core.stems.RenderPlace;
import waterwheel.core.stems.StemForecast;
import waterwheel.core.stems.StemRender;
import waterwheel.core.stems.StemRequest;
import waterwheel.core.stems.StemResult;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.stems.Together;
import waterwheel.core.work.Progress;
import waterwheel.desktop.frame.WorkLine;
import waterwheel.desktop.model.KeptCaptures;
import waterwheel.desktop.model.Messages;
import waterwheel.desktop.model.SessionModel;

/** The plan of a render, what it will give, the render itself, and what came of it. */
final class StemsModel {
    private final SessionModel session;
    private final WorkLine work;
    /** How many passes through hardware the stems want before they can be rendered. */
    private final ReadOnlyObjectWrapper<Integer> passes = new ReadOnlyObjectWrapper<>(0);

    private final ObjectProperty<LevelPolicy> policy = new SimpleObjectProperty<>(new LevelPolicy.AsMixed());
    private final ObjectProperty<RenderFormat> format = new SimpleObjectProperty<>(RenderFormat.WAV_24);
    private final ObjectProperty<Path> folder;
    private final ObjectProperty<StemSettings> settings = new SimpleObjectProperty<>(StemSettings.USUAL);

    private final ObjectProperty<NamePattern> names = new SimpleObjectProperty<>(NamePattern.USUAL);
    /** What of the stems cannot add up; null while that is not known. */
    private final ReadOnlyObjectWrapper<@Nullable Together> together = new ReadOnlyObjectWrapper<>();

    private final ObjectProperty<Boolean> cues = new SimpleObjectProperty<>(true);
    private final ReadOnlyObjectWrapper<@Nullable StemForecast> forecast = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<@Nullable StemResult> result = new ReadOnlyObjectWrapper<>();
    /** From 0 to 1 while rendering; below 0 otherwise. */
    private final ReadOnlyDoubleWrapper progress = new ReadOnlyDoubleWrapper(-1);

    /** Stems as they were measured last, and of which session that is true. */
    private record Known(Session session, StemForecast.Measured measured, Together together) {}

    private @Nullable Known known;
    /** What is being measured; null where nothing is. */
    private @Nullable Session asked;
    /** Counts what was asked, so that only the newest answer is heard. */
    private int questions;

    private boolean wanted;
    private volatile boolean stopping;

    StemsModel(SessionModel session, WorkLine work) {
        this.session = session;
        this.work = work;
        folder = new SimpleObjectProperty<>(session.folder().resolve("renders"));
        session.keep(session.levelsProperty().subscribe(levels -> {
            if (!isKnown(levels.session())) {
                forecast.set(null);
            }
            if (levels.complete()) {
                measureIfWanted();
            }
        }));
        policy.subscribe(value -> forecastAgain());
        names.subscribe(value -> forecastAgain());
        settings.subscribe((before, after) -> measureAnew());
    }

    /** Says whether the forecast is being looked at; nobody measures stems that nobody sees. */
    void setWanted(boolean value) {
        wanted = value;
        measureIfWanted();
    }

    private void measureAnew() {
        known = null;
        asked = null;
        forecast.set(null);
        measureIfWanted();
    }

    private boolean isKnown(Session of) {
        return known != null && known.session().equals(of);
    }

    private void measureIfWanted() {
        Session now = session.session();
        if (!wanted || !session.levels().complete() || now.equals(asked)) {
            return;
        }
        if (isKnown(now)) {
            if (forecast.get() == null) {
                forecastAgain();
            }
            return;
        }
        asked = now;
        int question = ++questions;
        CompletableFuture<StemForecast.Measured> answer = session.questions().stems(asked(now));
        var unused = answer.whenComplete((stems, failure) -> Platform.runLater(() -> {
            if (question == questions && now.equals(asked)) {
                asked = null;
                take(now, stems);
            }
        }));
    }

    /** @param answer null where there is none */
    private void take(Session askedFor, StemForecast.@Nullable Measured answer) {
        if (answer != null) {
            known = new Known(askedFor, answer, Together.of(askedFor, asked(askedFor)));
            forecastAgain();
        }
    }

    private void forecastAgain() {
        Known now = known;
        if (now != null && now.session().equals(session.session())) {
            forecast.set(StemForecast.of(now.session(), now.measured(), policy.get(), names.get()));
            together.set(now.together());
            passes.set(now.measured().capturePasses());
        }
    }

    /** What is asked for of a session: how it is divided is its own. */
    private StemSettings asked(Session of) {
        return settings.get().withDivision(of.stems());
    }

    /** Takes the settings under which the stems add up; how they are divided is an edit. */
    void take(Together.Instead instead) {
        session.edit(StemEdits.by(instead.settings().division().by()));
        settings.set(instead.settings());
    }

    ObjectProperty<NamePattern> namesProperty() {
        return names;
    }

    ReadOnlyObjectProperty<@Nullable Together> togetherProperty() {
        return together.getReadOnlyProperty();
    }

    ObjectProperty<LevelPolicy> policyProperty() {
        return policy;
    }

    ObjectProperty<RenderFormat> formatProperty() {
        return format;
    }

    ObjectProperty<Path> folderProperty() {
        return folder;
    }

    /** What is asked for, but for how the mix is divided, which is the session's. */
    ObjectProperty<StemSettings> settingsProperty() {
        return settings;
    }

    ObjectProperty<Boolean> cuesProperty() {
        return cues;
    }

    /** What the render will give; null while it is being measured. */
    ReadOnlyObjectProperty<@Nullable StemForecast> forecastProperty() {
        return forecast.getReadOnlyProperty();
    }

    /** The last finished render; null before the first. */
    ReadOnlyObjectProperty<@Nullable StemResult> resultProperty() {
        return result.getReadOnlyProperty();
    }

    ReadOnlyDoubleProperty progressProperty() {
        return progress.getReadOnlyProperty();
    }

    ReadOnlyObjectProperty<Integer> passesProperty() {
        return passes.getReadOnlyProperty();
    }

    /** Captures what loops on buses bring back of each stem by itself. */
    void captureStems() {
        Session asked = session.session();
        List<StemShare> shares = asked(asked).shares(asked);
        session.transport().stop();
        work.start(
                "Capturing stems",
                progress -> CaptureRun.of(asked, session.folder())
                        .runStems(
                                asked,
                                shares,
                                captured -> Platform.runLater(() -> KeptCaptures.keep(session, captured)),
                                progress),
                done -> {});
    }

    boolean rendering() {
        return progress.get() >= 0;
    }

    /** Starts a render of the session as it is now; later edits do not touch it. */
    void render() {
        if (rendering()) {
            return;
        }
        StemRequest request = new StemRequest(folder.get(), format.get(), policy.get(), cues.get())
                .with(asked(session.session()))
                .with(names.get());
        StemForecast known = forecast.get();
        List<Path> foreign = known == null ? List.of() : RenderPlace.foreign(StemRender.targets(known, request));
        if (foreign.isEmpty()) {
            render(request);
            return;
        }
        session.offer(
                foreign.getFirst().getFileName()
                        + (foreign.size() == 1 ? " was" : " and " + (foreign.size() - 1) + " more were")
                        + " not rendered by Waterwheel, and would be replaced in " + request.folder() + ".",
                new Messages.Choice("Replace", "Render over them", () -> render(request.withOverwrite(true))),
                new Messages.Choice("Keep", "Leave them as they are; nothing is rendered", () -> {}));
    }

    private void render(StemRequest request) {
        Session now = session.session();
        Path from = session.folder();
        stopping = false;
        progress.set(0);
        result.set(null);
        Thread.ofPlatform().daemon().name("waterwheel-render").start(() -> {
            try {
                StemResult done = StemRender.render(now, from, request, new Shown());
                Platform.runLater(() -> result.set(done));
            } catch (CancellationException e) {
                Platform.runLater(() -> session.tell("The render was stopped; no file was left behind."));
            } catch (WaterwheelException | RuntimeException e) {
                Platform.runLater(() -> session.tell(String.valueOf(e.getMessage())));
            } finally {
                Platform.runLater(() -> progress.set(-1));
            }
        });
    }

    void stop() {
        stopping = true;
    }

    private final class Shown implements Progress {
        private int percent = -1;

        @Override
        public void at(double part) {
            int now = (int) (part * 100);
            if (now != percent) {
                percent = now;
                Platform.runLater(() -> progress.set(part));
            }
        }

        @Override
        public boolean stopped() {
            return stopping;
        }
    }
}
