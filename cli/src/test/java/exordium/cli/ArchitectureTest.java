// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** What this door of the program may use, and the order of its rooms. */
class ArchitectureTest {
    private static final JavaClasses CLASSES = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("exordium.cli");

    @Test
    void nothingHereKnowsSimulatedThings() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAPackage("exordium.sim..")
                .check(CLASSES);
    }

    /** Rows, such as a medium's, are handed on; the registers that keep them are reached through jobs only. */
    @Test
    void registersAreReachedThroughJobsOnly() {
        noClasses()
                .should()
                .dependOnClassesThat(resideInAPackage("exordium.store..").and(REGISTERS))
                .check(CLASSES);
    }

    private static final DescribedPredicate<JavaClass> REGISTERS =
            DescribedPredicate.describe("are registers", type -> !type.isNestedClass() && !type.isEnum());

    @Test
    void thereAreNoCircles() {
        slices().matching("exordium.cli.(*)..").should().beFreeOfCycles().check(CLASSES);
    }
}
