package waterwheel.desktop.staging;

import java.util.Set;
import java.util.stream.Collectors;
import javafx.application.Platform;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import org.jspecify.annotations.Nullable;
import waterwheel.core.metering.Figures;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Session;
import waterwheel.core.session.Track;
import waterwheel.core.staging.Aim;
import waterwheel.core.staging.TrimProposals;
import waterwheel.desktop.model.SessionModel;

/**
 * Proposed trims: made on demand, shown beside the present state, and gone when they were accepted, discarded, or
 * overtaken by another edit.
 */
final class StagingModel {
    private final SessionModel session;
    private final ReadOnlyObjectWrapper<TrimProposals> proposals;
    private final ReadOnlyObjectWrapper<@Nullable Figures> resultingMix = new ReadOnlyObjectWrapper<>();

    StagingModel(SessionModel session) {
        this.session = session;
        proposals = new ReadOnlyObjectWrapper<>(TrimProposals.none(session.session()));
        session.keep(session.historyProperty().subscribe(history -> {
            if (!proposals.get().session().equals(history.present())) {
                become(TrimProposals.none(history.present()));
            }
        }));
    }

    ReadOnlyObjectProperty<TrimProposals> proposalsProperty() {
        return proposals.getReadOnlyProperty();
    }

    /** The mix that would result from accepting all; null while it is measured and where nothing is proposed. */
    ReadOnlyObjectProperty<@Nullable Figures> resultingMixProperty() {
        return resultingMix.getReadOnlyProperty();
    }

    /** The tracks that a proposal is made for: the selected ones where there are several, or else all. */
    Set<ChannelId> scope() {
        Set<ChannelId> selected = session.selectionProperty().get();
        return selected.size() > 1
                ? selected
                : session.session().tracks().stream().map(Track::id).collect(Collectors.toUnmodifiableSet());
    }

    /** Proposes trims; says so where there are none to propose. */
    void propose(Aim aim) {
        if (!session.levels().complete()) {
            session.tell("The song is still being measured; propose trims when it is.");
            return;
        }
        switch (aim.place()) {
            case TRIM -> show(TrimProposals.of(session.levels(), scope(), aim));
            case CLIPS -> {
                // A change overtakes the question, and what it would have proposed.
                var unused = session.questions()
                        .clipGains(scope(), aim)
                        .whenComplete((made, failure) -> Platform.runLater(() -> {
                            if (failure == null && made.session().equals(session.session())) {
                                show(made);
                            }
                        }));
            }
        }
    }

    private void show(TrimProposals made) {
        if (made.isEmpty()) {
            session.tell("There is nothing to propose: cues and silent tracks are not staged.");
        }
        become(made);
    }

    /** Accepts all proposals as one undo step. */
    void acceptAll() {
        if (!proposals.get().isEmpty()) {
            session.edit(proposals.get().edit());
        }
    }

    /** Accepts the proposals of some channels as one undo step; the others stay proposed. */
    void accept(Set<ChannelId> channels) {
        TrimProposals all = proposals.get();
        TrimProposals accepted = all.only(channels);
        if (accepted.isEmpty()) {
            return;
        }
        Session after = accepted.edit().apply(session.session());
        // Before the edit, or the edit would be taken for one that overtakes them.
        proposals.set(new TrimProposals(after, all.without(channels).list()));
        session.edit(accepted.edit());
        measureResult();
    }

    void discard() {
        become(TrimProposals.none(session.session()));
    }

    private void become(TrimProposals next) {
        if (next.isEmpty() && proposals.get().isEmpty()) {
            return;
        }
        proposals.set(next);
        measureResult();
    }

    private void measureResult() {
        resultingMix.set(null);
        TrimProposals asked = proposals.get();
        if (asked.isEmpty()) {
            return;
        }
        // A question that a change overtook is asked again by that change, or is void.
        var unused = session.questions()
                .mix(asked.edit().apply(session.session()))
                .whenComplete((mix, failure) -> Platform.runLater(() -> {
                    if (failure == null && asked.equals(proposals.get())) {
                        resultingMix.set(mix);
                    }
                }));
    }
}
