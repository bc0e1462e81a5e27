// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import exordium.core.testing.DoorRules;
import org.junit.jupiter.api.Test;

/** What this door of the program may use, and the order of its rooms. */
class ArchitectureTest {
    private static final String DOOR = "exordium.desktop";
    private static final JavaClasses CLASSES = DoorRules.classes(DOOR);

    @Test
    void nothingHereKnowsSimulatedThings() {
        DoorRules.knowsNoSimulatedThings(CLASSES);
    }

    @Test
    void registersAreReachedThroughJobsOnly() {
        DoorRules.reachesRegistersThroughJobsOnly(CLASSES);
    }

    @Test
    void thereAreNoCircles() {
        DoorRules.hasNoCircles(CLASSES, DOOR);
    }

    @Test
    void stationsKnowNothingOfEachOther() {
        slices().matching("exordium.desktop.board.(storage|image|firststart|firmware|order|rehearsal|copies)..")
                .should()
                .notDependOnEachOther()
                .check(CLASSES);
    }

    /** What decides what is shown is tried without a window. */
    @Test
    void theDeskKnowsNoControl() {
        noClasses()
                .that()
                .resideInAPackage("exordium.desktop.desk..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("javafx.scene..", "javafx.stage..")
                .check(CLASSES);
    }

    @Test
    void onlyTheMachineKnowsThePlatform() {
        DoorRules.knowsNoPlatform(CLASSES);
    }

    @Test
    void nothingComparesTheCodeOfAFinding() {
        DoorRules.comparesNoCodeOfAFinding(CLASSES, "EditsView");
    }
}
