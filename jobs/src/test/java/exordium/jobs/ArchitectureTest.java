// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static com.tngtech.archunit.core.domain.JavaCall.Predicates.target;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.belongToAnyOf;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.equivalentTo;
import static com.tngtech.archunit.core.domain.properties.HasName.Predicates.name;
import static com.tngtech.archunit.core.domain.properties.HasName.Predicates.nameMatching;
import static com.tngtech.archunit.core.domain.properties.HasOwner.Predicates.With.owner;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import exordium.core.block.FileDevice;
import exordium.core.finding.Finding;
import exordium.jobs.bench.Targets;
import exordium.jobs.run.JobRunner;
import exordium.sim.VirtualDrive;
import org.junit.jupiter.api.Test;

/** The rooms of jobs, and who may get at a device. */
class ArchitectureTest {
    private static final JavaClasses JOBS = new ClassFileImporter()
            .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
            .importPackages("exordium.jobs", "exordium.store", "exordium.sim");

    @Test
    void thereAreNoCircles() {
        slices().matching("exordium.jobs.(**)").should().beFreeOfCycles().check(JOBS);
    }

    @Test
    void theGroundKnowsNoStep() {
        noClasses()
                .that()
                .resideInAnyPackage("exordium.jobs.bench..", "exordium.jobs.run..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "exordium.jobs.media..",
                        "exordium.jobs.shelf..",
                        "exordium.jobs.paper..",
                        "exordium.jobs.writing..",
                        "exordium.jobs.storage..",
                        "exordium.jobs.board..",
                        "exordium.jobs.rehearsal..",
                        "exordium.jobs.copies..",
                        "exordium.jobs.daysheet..",
                        "exordium.jobs.passage..",
                        "exordium.jobs.demo..")
                .check(JOBS);
    }

    /** Whoever wants to change a medium goes by the runner, with its refusals, its row and its logbook. */
    @Test
    void onlyTheRunnerClaimsATarget() {
        noClasses()
                .that()
                .doNotBelongToAnyOf(JobRunner.class)
                .and()
                .resideInAPackage("exordium.jobs..")
                .and()
                .doNotHaveFullyQualifiedName("exordium.jobs.run.Recovery")
                .should()
                .callMethodWhere(target(name("claim")).and(target(owner(equivalentTo(Targets.Target.class)))))
                .check(JOBS);
    }

    /** The demo makes its own drives before there is anybody to be refused. */
    @Test
    void onlyTargetsOpensADeviceForWriting() {
        noClasses()
                .that()
                .doNotBelongToAnyOf(Targets.class)
                .and()
                .resideInAPackage("exordium.jobs..")
                .and()
                .resideOutsideOfPackage("exordium.jobs.demo..")
                .should()
                .callMethodWhere(target(nameMatching("forWriting|open"))
                        .and(target(owner(belongToAnyOf(FileDevice.class, VirtualDrive.class)))))
                .check(JOBS);
    }

    /** Whoever wants to know something of the system asks its machine. */
    @Test
    void onlyTheMachineKnowsThePlatform() {
        noClasses()
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("exordium.core.block.linux", "com.sun.jna..")
                .check(JOBS);
    }

    /** Codes are for those who read them; what somebody goes by is a finding's subject. */
    @Test
    void nothingComparesTheCodeOfAFinding() {
        noClasses().should().callMethod(Finding.class, "code").check(JOBS);
    }
}
