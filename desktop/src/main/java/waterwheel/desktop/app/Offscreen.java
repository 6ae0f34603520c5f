package waterwheel.desktop.app;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import javafx.application.Platform;
import javafx.stage.Stage;
import waterwheel.core.captures.HardwareSlot;
import waterwheel.core.inserts.Insert;
import waterwheel.core.inserts.SlotId;
import waterwheel.core.metering.Figures;
import waterwheel.core.processing.Compressor;
import waterwheel.core.session.Channel;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.songs.SongRow;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.clips.ClipsPanel;
import waterwheel.desktop.frame.Step;
import waterwheel.desktop.guide.Guide;
import waterwheel.desktop.inserts.InsertPanel;
import waterwheel.desktop.model.SessionModel;
import waterwheel.desktop.order.OrderModel;
import waterwheel.desktop.outboard.OutboardView;
import waterwheel.desktop.rides.RidesView;
import waterwheel.desktop.staging.StagingView;
import waterwheel.desktop.stems.StemsView;

/**
 * Runs the application without anybody at it: waits until the session is measured, plays a little, draws every view to
 * a picture, and ends.
 */
final class Offscreen extends Unattended {
    private static final double PLAYED_SECONDS = 2;

    private final Path pictures;
    private final List<Path> drawn = new ArrayList<>();
    private String story = "";

    Offscreen(Path pictures) {
        this.pictures = pictures;
    }

    List<Path> drawn() {
        return drawn;
    }

    /** What was measured and played, in words. */
    String story() {
        return story;
    }

    @Override
    void run(Desk desk, Stage stage) throws IOException {
        Files.createDirectories(pictures);
        OrderModel order = onInterface(() -> desk.orders().model());
        if (order != null) {
            runOrder(stage, order);
            return;
        }
        SessionModel model = onInterface(desk::model);
        if (model == null) {
            draw(stage, "start");
            return;
        }
        until(() -> model.levels().complete());
        String measured = onInterface(() -> inWords(model));
        double length =
                (double) model.session().lengthFrames() / model.session().sampleRateHz();
        double begin = length / 6;
        double end = Math.min(length, begin + PLAYED_SECONDS);
        onInterface(() -> {
            model.transport().seek(begin);
            model.transport().playOrStop();
            return true;
        });
        // The position is rounded to frames, so the very end may never quite be reached.
        until(() -> model.transport().secondsProperty().get() >= end - 0.01);
        story = measured + " Played " + LevelText.signed(end - begin, 1, false) + " s ("
                + onInterface(() -> model.transport().portInWords()) + ").";
        for (Step step : Step.values()) {
            if (step == Step.RUNNING_ORDER) {
                continue;
            }
            onInterface(() -> {
                desk.window().show(step);
                return true;
            });
            if (step == Step.FLOW) {
                onInterface(() -> {
                    model.select(model.session().mainId());
                    return true;
                });
            }
            Channel selected = onInterface(model::selectedChannel);
            if (step == Step.RIDES) {
                onInterface(() -> {
                    model.select(mostRidden(model));
                    return true;
                });
            }
            if (desk.window().view(step) instanceof RidesView rides) {
                until(rides::ready);
            }
            if (desk.window().view(step) instanceof StemsView stems) {
                until(stems::ready);
            }
            if (desk.window().view(step) instanceof OutboardView outboard) {
                drawOutboard(stage, model, outboard);
                continue;
            }
            draw(stage, step.label().toLowerCase(Locale.ROOT));
            if (step == Step.RIDES) {
                onInterface(() -> {
                    model.select(selected.id());
                    return true;
                });
            }
            if (step == Step.BLEND) {
                drawInsert(desk, stage, model);
                drawPanels(desk, stage, model);
            }
            if (desk.window().view(step) instanceof StagingView staging) {
                drawGuide(desk, stage);
                drawProposals(stage, staging);
                drawClips(desk, stage, model);
            }
        }
        onInterface(() -> {
            model.transport().stop();
            return true;
        });
    }

    /** Measures the songs, proposes what makes them equal, and plays the first. */
    private void runOrder(Stage stage, OrderModel order) throws IOException {
        until(() -> order.levels().rows().stream().noneMatch(SongRow::isPending));
        onInterface(() -> {
            order.propose();
            order.listening().playOrStop();
            return true;
        });
        until(() -> order.levels().rows().isEmpty()
                || order.listening().secondsProperty().get() >= PLAYED_SECONDS - 0.01);
        story = "Measured " + order.levels().rows().size() + " songs; "
                + onInterface(() -> order.proposalsProperty().get().size())
                + " gains would make them equal. Played "
                + LevelText.signed(
                        onInterface(() -> order.listening().secondsProperty().get()), 1, false) + " s.";
        draw(stage, "running-order");
        onInterface(() -> {
            if (order.listening().playingProperty().get()) {
                order.listening().playOrStop();
            }
            return true;
        });
    }

    /** Shows what the loops are found to do; the session stays as it was. */
    private void drawOutboard(Stage stage, SessionModel model, OutboardView outboard) throws IOException {
        Channel before = onInterface(model::selectedChannel);
        Session session = onInterface(model::session);
        onInterface(() -> {
            HardwareSlot.of(session).stream().findFirst().ifPresent(slot -> model.select(slot.channel()));
            outboard.timeAll();
            return true;
        });
        until(outboard::timed);
        until(() -> model.levels().complete());
        draw(stage, "outboard");
        onInterface(() -> {
            if (!model.session().equals(session)) {
                model.undo();
            }
            model.select(before.id());
            return true;
        });
    }

    /** Shows the guide at the first of its tasks. */
    private void drawGuide(Desk desk, Stage stage) throws IOException {
        String task = Guide.shipped().chapters().stream()
                .filter(chapter -> chapter.steps().isPresent())
                .map(Guide.Chapter::title)
                .findFirst()
                .orElseThrow();
        onInterface(() -> {
            desk.window().openGuide(task);
            return true;
        });
        draw(stage, "guide");
        onInterface(() -> {
            desk.window().toggleGuide();
            return true;
        });
    }

    private void drawProposals(Stage stage, StagingView staging) throws IOException {
        onInterface(() -> {
            staging.propose();
            return true;
        });
        until(staging::resultKnown);
        draw(stage, "staging-proposed");
        onInterface(() -> {
            staging.discardProposals();
            return true;
        });
    }

    /** Shows the clips of the track whose phrases are furthest from its average, with the curve that would calm it. */
    private void drawClips(Desk desk, Stage stage, SessionModel model) throws IOException {
        Channel before = onInterface(model::selectedChannel);
        Optional<Track> moving = model.session().tracks().stream()
                .filter(track -> track.kind() == Track.Kind.SUSTAINED)
                .filter(track -> !track.clips().isEmpty())
                .max(Comparator.comparingDouble(track -> spreadDb(model, track)));
        if (moving.isEmpty()) {
            return;
        }
        ClipsPanel clips = onInterface(() -> desk.window().clips().orElseThrow());
        onInterface(() -> {
            model.select(moving.get().id());
            clips.toggle();
            clips.proposeCalm();
            return true;
        });
        until(clips::settled);
        draw(stage, "clips");
        onInterface(() -> {
            clips.toggle();
            model.select(before.id());
            return true;
        });
    }

    /** Shows the settings of the first processor that turns down, beside the Path of its channel. */
    private void drawInsert(Desk desk, Stage stage, SessionModel model) throws IOException {
        InsertPanel panel = onInterface(() -> desk.window().inserts().orElseThrow());
        Channel before = onInterface(model::selectedChannel);
        for (Channel channel : model.session().channels()) {
            Optional<SlotId> slot = channel.strip().activeInserts().stream()
                    .filter(i -> i.processor().kind().equals(Compressor.KIND))
                    .map(Insert::id)
                    .findFirst();
            if (slot.isPresent()) {
                onInterface(() -> {
                    model.select(channel.id());
                    panel.open(slot.get());
                    return true;
                });
                draw(stage, "insert");
                onInterface(() -> {
                    model.select(before.id());
                    return true;
                });
                return;
            }
        }
    }

    /** Shows the load, what would be printed of the dearest chain, and an instrument's notes. */
    private void drawPanels(Desk desk, Stage stage, SessionModel model) throws IOException {
        Channel before = onInterface(model::selectedChannel);
        Optional<Channel> longest = model.session().channels().stream()
                .filter(channel -> !channel.id().equals(model.session().mainId()))
                .max(Comparator.comparingInt(
                        channel -> channel.strip().inserts().size()));
        Optional<Track> player = model.session().tracks().stream()
                .filter(track -> track.played().isPresent())
                .findFirst();
        if (longest.isPresent()) {
            drawPanel(stage, model, "load", longest.get().id(), desk.window()::toggleLoad);
            drawPanel(stage, model, "prints", longest.get().id(), desk.window()::togglePrints);
        }
        if (player.isPresent()) {
            drawPanel(stage, model, "notes", player.get().id(), desk.window()::toggleClips);
        }
        onInterface(() -> {
            model.select(before.id());
            return true;
        });
    }

    private void drawPanel(Stage stage, SessionModel model, String name, ChannelId channel, Runnable toggle)
            throws IOException {
        onInterface(() -> {
            model.select(channel);
            toggle.run();
            return true;
        });
        draw(stage, name);
        onInterface(() -> {
            toggle.run();
            return true;
        });
    }

    private static double spreadDb(SessionModel model, Track track) {
        return model.levels()
                .of(track.id())
                .map(levels ->
                        levels.first().shortTermHighDbfs() - levels.first().shortTermLowDbfs())
                .filter(Double::isFinite)
                .orElse(0.0);
    }

    private static String inWords(SessionModel model) {
        Figures mix = model.levels().main().orElseThrow();
        return model.session().tracks().size() + " tracks measured: "
                + model.session().main().name() + " peaks at "
                + LevelText.level(mix.samplePeakDbfs(), "dBFS") + ", "
                + LevelText.level(mix.integratedLufs(), "LUFS") + ", "
                + model.findingsProperty().get().size() + " findings.";
    }

    private void draw(Stage stage, String name) throws IOException {
        // Two turns of the interface thread let styles and layout settle.
        onInterface(() -> true);
        onInterface(() -> true);
        Path file = pictures.resolve(name + ".png");
        CompletableFuture<Pictures.Pixels> taken = new CompletableFuture<>();
        Platform.runLater(() -> taken.complete(Pictures.of(stage.getScene())));
        Pictures.write(taken.join(), file);
        drawn.add(file);
    }
}
