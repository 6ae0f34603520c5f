package waterwheel.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class DesktopArchitectureTest {
    private final JavaClasses desktop = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("waterwheel.desktop");

    /** What views stand on. */
    private static final List<String> GROUND = List.of("model", "controls", "frame");

    /** The screen's areas; each knows the ground and none of the others. */
    private static final List<String> AREAS = List.of(
            "alike",
            "blend",
            "clips",
            "controllers",
            "flow",
            "guide",
            "inserts",
            "intake",
            "load",
            "meters",
            "notes",
            "order",
            "outboard",
            "path",
            "prints",
            "rides",
            "staging",
            "start",
            "stems");

    @Test
    void every_room_is_named() {
        Set<String> rooms = new TreeSet<>();
        desktop.forEach(c -> rooms.add(c.getPackageName().substring("waterwheel.desktop.".length())));
        assertThat(Stream.of(GROUND, AREAS, List.of("app"))
                        .flatMap(List::stream)
                        .sorted()
                        .toList())
                .containsExactlyElementsOf(rooms);
    }

    @Test
    void areas_of_the_screen_know_the_ground_alone_and_the_ground_knows_only_what_is_below() {
        for (String area : AREAS) {
            knowsNone(
                    area, Stream.of(AREAS, List.of("app")).flatMap(List::stream).filter(o -> !o.equals(area)));
        }
        for (int i = 0; i < GROUND.size(); i++) {
            knowsNone(
                    GROUND.get(i),
                    Stream.of(GROUND.subList(i + 1, GROUND.size()), AREAS, List.of("app"))
                            .flatMap(List::stream));
        }
    }

    private void knowsNone(String room, Stream<String> others) {
        ArchRuleDefinition.noClasses()
                .that()
                .resideInAPackage("waterwheel.desktop." + room)
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        others.map(name -> "waterwheel.desktop." + name).toArray(String[]::new))
                .check(desktop);
    }

    /** Sums, formats and rules are the core's: nothing here runs samples. */
    @Test
    void views_compute_no_samples() {
        ArchRuleDefinition.noClasses()
                .that()
                .resideInAnyPackage(
                        AREAS.stream().map(name -> "waterwheel.desktop." + name).toArray(String[]::new))
                .should()
                .dependOnClassesThat()
                .haveNameMatching("waterwheel\\.core\\.engine\\.(PlanRun|PlanCompiler|SumTask)")
                .check(desktop);
    }
}
