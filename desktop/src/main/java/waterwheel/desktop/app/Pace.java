package waterwheel.desktop.app;

import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.function.IntConsumer;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.stage.Stage;
import waterwheel.core.json.Json;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.desktop.controls.RowList;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.rides.RidesView;

/**
 * How quickly the window follows, on the session that it was opened with: the first picture, jumps through long lists,
 * choosing channels that are far away, and curves that follow a zoom and a scroll. A pause is the longest time from one
 * picture to the next until all rows in sight are drawn; it is 17 ms where none is missed.
 */
final class Pace extends Unattended {
    private static final List<Step> LISTS = List.of(Step.INTAKE, Step.STAGING, Step.BLEND);
    /** Jumps before those that count, in which the code is compiled. */
    private static final int WARM_UPS = 20;

    private static final int JUMPS = 60;
    /** Between jumps, so that what is made after one is not counted to the next. */
    private static final int REST_MILLIS = 150;

    private static final double FRAMES_SECONDS = 4;

    private final long began = System.nanoTime();
    private final ObjectNode measured = Json.object();

    /** What was measured: milliseconds, and frames a second. */
    ObjectNode measured() {
        return measured;
    }

    @Override
    void run(Desk desk, Stage stage) {
        drawn(() -> {});
        measured.put("firstPictureMilliseconds", millisSince(began));
        SessionModel model = onInterface(desk::model);
        until(() -> model.levels().complete());
        measured.put("levelsMilliseconds", millisSince(began));
        List<ChannelId> channels =
                model.session().channels().stream().map(Channel::id).toList();
        for (Step step : LISTS) {
            ObjectNode times = measured.putObject(step.name().toLowerCase(Locale.ROOT));
            times.put("shownMilliseconds", Math.round(drawn(() -> desk.window().show(step))));
            ScrollPane list =
                    onInterface(() -> list(Objects.requireNonNull(desk.window().view(step))));
            times.set("jump", repeated(list, random -> {
                double to = random.nextDouble();
                return () -> list.setVvalue(list.getVmax() * to);
            }));
            times.set("choose", repeated(list, random -> {
                ChannelId far = channels.get(random.nextInt(channels.size()));
                return () -> model.select(far);
            }));
        }
        onInterface(() -> {
            desk.window().show(Step.RIDES);
            model.select(mostRidden(model));
            return true;
        });
        if (desk.window().view(Step.RIDES) instanceof RidesView rides) {
            measureRides(rides, onInterface(() -> list(rides)));
        }
    }

    private void measureRides(RidesView rides, ScrollPane lanes) {
        until(rides::ready);
        ObjectNode frames = measured.putObject("curves");
        for (String round : List.of("first", "later")) {
            ObjectNode times = frames.putObject(round);
            times.put("zoomFramesASecond", framesASecond(i -> rides.zoom(i / 10 % 2 == 0 ? 1.1 : 1 / 1.1)));
            times.put("scrollFramesASecond", framesASecond(i -> lanes.setVvalue(lanes.getVmax() * (i % 200) / 200)));
        }
    }

    /** The part of a view that scrolls through most. */
    private static ScrollPane list(Node view) {
        return view.lookupAll(".scroll-pane").stream()
                .filter(ScrollPane.class::isInstance)
                .map(ScrollPane.class::cast)
                .filter(Node::isVisible)
                .max(Comparator.comparingDouble(
                        pane -> pane.getContent().getLayoutBounds().getWidth()
                                * pane.getContent().getLayoutBounds().getHeight()))
                .orElseThrow();
    }

    private static ObjectNode repeated(ScrollPane list, Function<SplittableRandom, Runnable> next) {
        SplittableRandom random = new SplittableRandom(1);
        double[] pause = new double[JUMPS];
        double[] whole = new double[JUMPS];
        for (int i = -WARM_UPS; i < JUMPS; i++) {
            Pauses pauses = new Pauses(
                    next.apply(random), () -> !(list.getContent() instanceof RowList<?, ?> rows) || rows.complete());
            Platform.runLater(pauses::start);
            pauses.over.join();
            if (i >= 0) {
                pause[i] = pauses.longest * 1e-6;
                whole[i] = pauses.all * 1e-6;
            }
            rest(REST_MILLIS);
        }
        ObjectNode node = Json.object();
        node.set("pauseMilliseconds", spread(pause));
        node.set("allRowsMilliseconds", spread(whole));
        return node;
    }

    /** Changes something and watches the pictures until all of it is drawn. */
    private static final class Pauses extends AnimationTimer {
        private final Runnable change;
        private final BooleanSupplier complete;
        private final CompletableFuture<Boolean> over = new CompletableFuture<>();
        private long begun;
        private long last;
        private int pictures;
        private long longest;
        private long all;

        Pauses(Runnable change, BooleanSupplier complete) {
            this.change = change;
            this.complete = complete;
        }

        /** Called before each picture is drawn. */
        @Override
        public void handle(long now) {
            long time = System.nanoTime();
            if (pictures == 0) {
                begun = time;
                change.run();
            } else {
                longest = Math.max(longest, time - last);
            }
            // What was complete in one picture has been drawn when the next begins.
            if (pictures > 1 && complete.getAsBoolean()) {
                all = time - begun;
                stop();
                over.complete(true);
            }
            last = time;
            pictures++;
        }
    }

    private static ObjectNode spread(double[] millis) {
        Arrays.sort(millis);
        ObjectNode node = Json.object();
        node.put("median", Math.round(millis[JUMPS / 2]));
        node.put("nineInTen", Math.round(millis[JUMPS * 9 / 10]));
        node.put("worst", Math.round(millis[JUMPS - 1]));
        return node;
    }

    /** Does something and tells how many milliseconds later it has been drawn. */
    private static double drawn(Runnable change) {
        CompletableFuture<Long> took = new CompletableFuture<>();
        Platform.runLater(() -> {
            long begun = System.nanoTime();
            change.run();
            NextPicture.then(() -> took.complete(System.nanoTime() - begun));
        });
        return took.join() * 1e-6;
    }

    /** How many pictures a second there are while something changes in each. */
    private static long framesASecond(IntConsumer change) {
        CompletableFuture<Double> rate = new CompletableFuture<>();
        Platform.runLater(() -> new AnimationTimer() {
            private final long begun = System.nanoTime();
            private int frames;

            @Override
            public void handle(long now) {
                change.accept(frames);
                frames++;
                double seconds = (System.nanoTime() - begun) * 1e-9;
                if (seconds >= FRAMES_SECONDS) {
                    stop();
                    rate.complete(frames / seconds);
                }
            }
        }.start());
        return Math.round(rate.join());
    }

    private static long millisSince(long nanos) {
        return (System.nanoTime() - nanos) / 1_000_000;
    }
}
