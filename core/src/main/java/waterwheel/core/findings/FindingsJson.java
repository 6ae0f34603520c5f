package waterwheel.core.findings;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Locale;
import waterwheel.core.json.Json;

/** Findings as a JSON document. */
public final class FindingsJson {
    private FindingsJson() {}

    /** All findings, the most serious first. */
    public static ObjectNode of(List<Finding> findings) {
        ObjectNode document = Json.object();
        ArrayNode list = document.putArray("findings");
        for (Finding finding : findings) {
            ObjectNode node = list.addObject();
            node.put("rule", word(finding.rule()));
            node.put("severity", word(finding.severity()));
            node.put("channel", finding.channel().value());
            node.set("atSeconds", Json.figure(finding.atSeconds().orElse(Double.NaN)));
            node.put("sentence", finding.sentence());
            node.put("advice", finding.advice());
            finding.remedy().ifPresent(remedy -> node.put("remedy", remedy.name()));
        }
        return document;
    }

    private static String word(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
