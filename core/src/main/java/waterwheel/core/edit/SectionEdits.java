package waterwheel.core.edit;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.UnaryOperator;
import waterwheel.core.session.Section;
import waterwheel.core.session.Session;

/** The edits of the song's named sections. Sections may overlap; they are kept by their starts. */
public final class SectionEdits {
    private SectionEdits() {}

    /** Adds a section. */
    public static Edit add(Section section) {
        return new Edit("New section " + section.name(), session -> {
            List<Section> sections = new ArrayList<>(session.sections());
            sections.add(section);
            return sorted(session, sections);
        });
    }

    /** Names a section. */
    public static Edit rename(Section section, String name) {
        return change(
                "Name of section " + section.name(),
                section,
                s -> new Section(name.strip(), s.startFrames(), s.endFrames()));
    }

    /** Moves a section's ends; frames on the song's line. */
    public static Edit bounds(Section section, long startFrames, long endFrames) {
        return change(
                "Range of section " + section.name(), section, s -> new Section(s.name(), startFrames, endFrames));
    }

    /** Takes a section away; the music stays. */
    public static Edit remove(Section section) {
        return new Edit(
                "Removal of section " + section.name(),
                session -> session.withSections(session.sections().stream()
                        .filter(s -> !s.equals(section))
                        .toList()));
    }

    private static Edit change(String name, Section section, UnaryOperator<Section> change) {
        return new Edit(
                name,
                session -> sorted(
                        session,
                        session.sections().stream()
                                .map(s -> s.equals(section) ? change.apply(s) : s)
                                .toList()));
    }

    private static Session sorted(Session session, List<Section> sections) {
        return session.withSections(sections.stream()
                .sorted(Comparator.comparingLong(Section::startFrames))
                .toList());
    }
}
