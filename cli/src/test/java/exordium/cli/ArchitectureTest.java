// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import com.tngtech.archunit.core.domain.JavaClasses;
import exordium.core.testing.DoorRules;
import org.junit.jupiter.api.Test;

/** What this door of the program may use, and the order of its rooms. */
class ArchitectureTest {
    private static final String DOOR = "exordium.cli";
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
    void onlyTheMachineKnowsThePlatform() {
        DoorRules.knowsNoPlatform(CLASSES);
    }

    @Test
    void nothingComparesTheCodeOfAFinding() {
        DoorRules.comparesNoCodeOfAFinding(CLASSES, "Common", "LintCommand", "MediumCommand");
    }
}
