// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import java.util.function.Supplier;

/** Worked out when it is first asked for, and once. */
final class Later<T> {
    private final Supplier<T> supplier;
    private T value;

    Later(Supplier<T> supplier) {
        this.supplier = supplier;
    }

    synchronized T get() {
        if (value == null) {
            value = supplier.get();
        }
        return value;
    }
}
