// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import exordium.core.finding.Finding;
import java.util.Set;

/** What holds for both doors of the program, the window and the command line. */
public final class DoorRules {
    /** Rows, such as a medium's, are nested in their registers and are handed on. */
    private static final DescribedPredicate<JavaClass> REGISTERS = resideInAPackage("exordium.store..")
            .and(DescribedPredicate.describe("are registers", type -> !type.isNestedClass() && !type.isEnum()));

    private DoorRules() {}

    public static JavaClasses classes(String door) {
        return new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .importPackages(door);
    }

    public static void knowsNoSimulatedThings(JavaClasses classes) {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAPackage("exordium.sim..")
                .check(classes);
    }

    /** Whoever wants to know something of the system asks its machine. */
    public static void knowsNoPlatform(JavaClasses classes) {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("exordium.core.block.linux", "com.sun.jna..")
                .check(classes);
    }

    public static void reachesRegistersThroughJobsOnly(JavaClasses classes) {
        noClasses().should().dependOnClassesThat(REGISTERS).check(classes);
    }

    public static void hasNoCircles(JavaClasses classes, String door) {
        slices().matching(door + ".(**)").should().beFreeOfCycles().check(classes);
    }

    /** Codes of findings are printed, each in one place, and steer nothing. */
    public static void comparesNoCodeOfAFinding(JavaClasses classes, String... printing) {
        noClasses()
                .that()
                .areNotAnonymousClasses()
                .and(DescribedPredicate.<JavaClass>describe(
                        "do not print", type -> !Set.of(printing).contains(type.getSimpleName())))
                .should()
                .callMethod(Finding.class, "code")
                .check(classes);
    }
}
