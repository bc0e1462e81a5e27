// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.block.Machine;
import java.util.Optional;

/** A process by its number and when it began: numbers are given again, and a machine that started anew begins to count from the first. */
record RunningProcess(long number, String start) {
    static RunningProcess own() {
        long number = ProcessHandle.current().pid();
        return new RunningProcess(number, Machine.here().began(number).orElse(""));
    }

    /** Whether it still runs. Where nothing is known of when it began, as in rows of older versions, its number decides. */
    boolean alive() {
        Optional<String> now = Machine.here().began(number);
        return now.isPresent() && (start.isEmpty() || start.equals(now.get()));
    }
}
