package waterwheel.core;

import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
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

    @Test
    void the_model_stands_below_the_engine_and_the_engine_below_what_uses_it() {
        layeredArchitecture()
                .consideringOnlyDependenciesInLayers()
                .layer("units")
                .definedBy("..core.units..", "..core.work..", "..core.errors..")
                .layer("session")
                .definedBy("..core.session..")
                .layer("routing")
                .definedBy("..core.routing..", "..core.edit..")
                .layer("signal")
                .definedBy("..core.audiofile..", "..core.metering..")
                .layer("engine")
                .definedBy("..core.engine..")
                .layer("drivers")
                .definedBy("..core.levels..", "..core.playback..", "..core.stems..", "..core.filefacts..")
                .layer("advice")
                .definedBy("..core.findings..", "..core.staging..")
                .whereLayer("advice")
                .mayNotBeAccessedByAnyLayer()
                .whereLayer("drivers")
                .mayOnlyBeAccessedByLayers("advice")
                .whereLayer("engine")
                .mayOnlyBeAccessedByLayers("drivers", "advice")
                .whereLayer("session")
                .mayOnlyBeAccessedByLayers("routing", "engine", "drivers", "advice")
                .check(core);
    }
}
