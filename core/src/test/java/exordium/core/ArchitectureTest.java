// SPDX-License-Identifier: Apache-2.0
package exordium.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import exordium.core.finding.Finding;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Holds core's packages in the order of the work: each may use those before it, never those after it. */
class ArchitectureTest {
    private static final List<String> ORDER = List.of(
            "quantity",
            "finding",
            "profile",
            "block",
            "block.linux",
            "image",
            "layout",
            "filesystem",
            "filesystem.fat",
            "filesystem.ext",
            "filesystem.volume",
            "inspection",
            "writing",
            "storage.media",
            "storage.judgement",
            "storage.plan",
            "health",
            "board",
            "firststart.settings",
            "firststart.kernelline",
            "firststart.lint",
            "firststart",
            "firststart.intents",
            "firststart.dialect",
            "firmware",
            "bootorder",
            "access",
            "reading",
            "rehearsal.contents",
            "rehearsal",
            "rehearsal.faults",
            "rehearsal.family",
            "rehearsal.diagnosis",
            "multiboot",
            "network",
            "copies.vault",
            "copies.schedule",
            "copies.care",
            "passage",
            "daysheet");

    private static final JavaClasses CORE = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("exordium.core");

    @Test
    void packagesUseOnlyThoseBeforeThem() {
        for (int i = 0; i < ORDER.size(); i++) {
            String[] later = ORDER.subList(i + 1, ORDER.size()).stream()
                    .map(name -> "exordium.core." + name)
                    .toArray(String[]::new);
            if (later.length > 0) {
                noClasses()
                        .that()
                        .resideInAPackage("exordium.core." + ORDER.get(i))
                        .should()
                        .dependOnClassesThat()
                        .resideInAnyPackage(later)
                        .check(CORE);
            }
        }
    }

    @Test
    void everyPackageHasItsPlaceInTheOrder() {
        noClasses()
                .that()
                .resideOutsideOfPackages(
                        ORDER.stream().map(name -> "exordium.core." + name).toArray(String[]::new))
                .should()
                .bePublic()
                .orShould()
                .notBePublic()
                .allowEmptyShould(true)
                .check(CORE);
    }

    /** Whoever wants to know something of the system asks its machine, which is found by the service loader. */
    @Test
    void onlyTheMachineKnowsThePlatform() {
        noClasses()
                .that()
                .resideOutsideOfPackage("exordium.core.block.linux")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("exordium.core.block.linux", "com.sun.jna..")
                .check(CORE);
    }

    @Test
    void thereAreNoCycles() {
        slices().matching("exordium.core.(**)").should().beFreeOfCycles().check(CORE);
    }

    @Test
    void coreKnowsNoWindowNoDatabaseNoSocketAndNoClockOfItsOwn() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("javafx..", "java.sql..", "java.net..", "org.jdbi..")
                .check(CORE);
        noClasses().should().callMethod(java.time.LocalDate.class, "now").check(CORE);
        noClasses().should().callMethod(java.time.Instant.class, "now").check(CORE);
        noClasses().should().callMethod(System.class, "currentTimeMillis").check(CORE);
    }

    /** Codes are for those who read them, such as who is told over the helper's line; what somebody goes by is a finding's subject. */
    @Test
    void nothingComparesTheCodeOfAFinding() {
        noClasses()
                .that()
                .doNotBelongToAnyOf(Finding.class)
                .and()
                .doNotHaveFullyQualifiedName("exordium.core.block.linux.DriveHelper")
                .should()
                .callMethod(Finding.class, "code")
                .check(CORE);
    }
}
