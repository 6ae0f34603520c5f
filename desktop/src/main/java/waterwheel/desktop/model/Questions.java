package waterwheel.desktop.model;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Supplier;
import waterwheel.core.levels.PeakShares;
import waterwheel.core.levels.SongMeasure;
import waterwheel.core.metering.Figures;
import waterwheel.core.metering.LevelSeries;
import waterwheel.core.path.Stage;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Clip;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.ClipGainProposals;
import waterwheel.core.staging.HoldLevel;
import waterwheel.core.staging.MakeRoom;
import waterwheel.core.staging.RideProposal;
import waterwheel.core.staging.RoomProposals;
import waterwheel.core.staging.TrimProposals;
import waterwheel.core.stems.StemForecast;
import waterwheel.core.stems.StemSettings;
import waterwheel.core.work.Progress;

/**
 * What can be asked about the song's levels, beside those that are shown. All answers come on another thread. One that
 * fails says why by itself, so whoever asks has to do with answers alone.
 */
public final class Questions {
    /** Has a question answered about a session; a newer session overtakes it, and it is cancelled. */
    interface Asking {
        <T> CompletableFuture<T> ask(Session about, BiFunction<SongMeasure, Progress, T> question);
    }

    private final Supplier<Session> session;
    private final Asking asking;
    private final Consumer<String> failed;

    /**
     * Makes the questions.
     *
     * @param failed is told, on any thread, why something could not be answered
     */
    Questions(Supplier<Session> session, Asking asking, Consumer<String> failed) {
        this.session = session;
        this.asking = asking;
        this.failed = failed;
    }

    private <T> CompletableFuture<T> ask(String what, Session about, BiFunction<SongMeasure, Progress, T> question) {
        return asking.ask(about, question).whenComplete((answer, failure) -> {
            Throwable reason =
                    failure instanceof CompletionException && failure.getCause() != null ? failure.getCause() : failure;
            // A question that was overtaken is no failure.
            if (reason != null && !(reason instanceof CancellationException)) {
                failed.accept(what + " could not be measured: " + reason.getMessage());
            }
        });
    }

    /** Asks what the mix of some other session of the same files would measure. */
    public CompletableFuture<Figures> mix(Session asked) {
        return ask("The mix", asked, (song, progress) -> song.mix(asked, progress));
    }

    /**
     * Asks for the levels at a stage of a channel.
     *
     * @param part which of several: an insert's slot; empty for the stages that there is one of
     */
    public CompletableFuture<LevelSeries> stage(ChannelId channel, Stage stage, String part) {
        Session asked = session.get();
        return ask("The level", asked, (song, progress) -> song.at(asked, channel, stage, part, progress));
    }

    /** Asks for rides that make room for a channel; empty where it is never active. */
    public CompletableFuture<Optional<RideProposal>> room(ChannelId key, List<ChannelId> back, MakeRoom room) {
        Session asked = session.get();
        return ask(
                "Room for a channel",
                asked,
                (song, progress) -> RoomProposals.of(song, asked, key, back, room, progress));
    }

    /** Asks for a ride that holds a channel's level; empty where it needs none. */
    public CompletableFuture<Optional<RideProposal>> heldLevel(ChannelId channel, HoldLevel hold) {
        Session asked = session.get();
        return ask("The phrases", asked, (song, progress) -> hold.of(song, asked, channel, progress));
    }

    /** Asks for the levels of one clip's stretch of its file. */
    public CompletableFuture<LevelSeries> clip(Track track, Clip clip) {
        Session asked = session.get();
        return ask("The clip", asked, (song, progress) -> song.clip(asked, track, clip, progress));
    }

    /** Asks for proposed clip gains of the session as it is now. */
    public CompletableFuture<TrimProposals> clipGains(Set<ChannelId> channels, Aim aim) {
        Session asked = session.get();
        return ask("The clips", asked, (song, progress) -> ClipGainProposals.of(song, asked, channels, aim, progress));
    }

    /**
     * Asks who fills one of a bus's peaks.
     *
     * @param rank 0 for the highest one
     */
    public CompletableFuture<Optional<PeakShares>> peakShares(ChannelId bus, int rank) {
        Session asked = session.get();
        return ask("The peak", asked, (song, progress) -> song.peakShares(asked, bus, rank, progress));
    }

    /** Asks what every stem of the session as it is now will measure. */
    public CompletableFuture<StemForecast.Measured> stems(StemSettings settings) {
        Session asked = session.get();
        return ask("The stems", asked, (song, progress) -> StemForecast.measure(asked, settings, song, progress));
    }
}
