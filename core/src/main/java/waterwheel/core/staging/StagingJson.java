package waterwheel.core.staging;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Locale;
import waterwheel.core.json.Json;
import waterwheel.core.metering.Figures;

/** Proposed trims as a JSON document. */
public final class StagingJson {
    private StagingJson() {}

    /**
     * The proposals with what they do to the mix.
     *
     * @param before the mix as it is
     * @param after the mix with all of them applied
     * @param applied whether they were written to the session
     */
    public static ObjectNode of(TrimProposals proposals, Figures before, Figures after, boolean applied) {
        ObjectNode document = Json.object();
        ArrayNode list = document.putArray("proposals");
        for (TrimProposal proposal : proposals.list()) {
            ObjectNode node = list.addObject();
            node.put("channel", proposal.channel().value());
            node.put("name", proposals.session().channel(proposal.channel()).name());
            node.set("presentTrimDb", Json.figure(proposal.presentDb()));
            node.set("proposedTrimDb", Json.figure(proposal.proposedDb()));
            ArrayNode clips = node.putArray("proposedClipGainsDb");
            proposal.clipGainsDb().forEach(db -> clips.add(Json.figure(db)));
            node.put("reason", proposal.reason().name().toLowerCase(Locale.ROOT));
            node.set("averageDbfs", Json.figure(proposal.averageDbfs()));
            node.set("samplePeakDbfs", Json.figure(proposal.peakDbfs()));
            node.set("noiseFloorDbfs", Json.figure(proposal.noiseFloorDbfs()));
            node.put("noisy", proposal.noisy());
        }
        ObjectNode main = document.putObject("main");
        main.set("presentHeadroomDb", Json.figure(before.headroomDb()));
        main.set("resultingHeadroomDb", Json.figure(after.headroomDb()));
        main.set("resultingLoudnessLufs", Json.figure(after.integratedLufs()));
        document.put("applied", applied);
        return document;
    }
}
