package waterwheel.core;

import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class ArchitectureTest {
    private final JavaClasses core = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("waterwheel.core");

    @Test
    void packages_know_each_other_in_one_direction_only() {
        slices().matching("waterwheel.core.(*)..").should().beFreeOfCycles().check(core);
    }

    @Test
    void the_core_knows_no_interface() {
        ArchRuleDefinition.noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("javafx..", "java.awt..", "javax.swing..", "picocli..")
                .check(core);
    }

    /** From the ground up; a room knows none above its own floor. */
    private static final List<Set<String>> FLOORS = List.of(
            Set.of("units", "errors", "json", "work", "sources"),
            Set.of("metering", "rides", "audiofile", "controllers", "rack", "ports", "notes"),
            Set.of("inserts", "instruments"),
            Set.of("session", "processing", "filefacts"),
            Set.of("routing", "simulation", "outboard"),
            Set.of("edit", "path", "order"),
            Set.of("engine", "intake"),
            Set.of("captures", "freezing"),
            Set.of("load", "printing"),
            Set.of("levels", "playback", "recording", "store", "recall"),
            Set.of("stems", "staging", "findings", "demo"),
            Set.of("songs"));

    @Test
    void every_room_has_its_floor_and_knows_none_above() {
        Set<String> rooms = new TreeSet<>();
        core.forEach(c -> rooms.add(room(c.getPackageName())));
        assertThat(FLOORS.stream().flatMap(Set::stream).sorted().toList()).containsExactlyElementsOf(rooms);
        for (int floor = 0; floor < FLOORS.size(); floor++) {
            for (String room : FLOORS.get(floor)) {
                String[] above = FLOORS.subList(floor + 1, FLOORS.size()).stream()
                        .flatMap(Set::stream)
                        .map(name -> "waterwheel.core." + name)
                        .toArray(String[]::new);
                if (above.length > 0) {
                    ArchRuleDefinition.noClasses()
                            .that()
                            .resideInAPackage("waterwheel.core." + room)
                            .should()
                            .dependOnClassesThat()
                            .resideInAnyPackage(above)
                            .check(core);
                }
            }
        }
    }

    private static String room(String name) {
        return name.substring("waterwheel.core.".length());
    }

    @Test
    void the_session_knows_no_samples() {
        ArchRuleDefinition.noClasses()
                .that()
                .resideInAnyPackage("waterwheel.core.session", "waterwheel.core.routing", "waterwheel.core.edit")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "waterwheel.core.processing", "waterwheel.core.audiofile", "waterwheel.core.metering")
                .check(core);
    }
}
