// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import java.util.function.Supplier;

/** Worked out when it is first asked for, and once. */
public final class Lazy<T> {
    private final Supplier<T> supplier;
    private T value;

    Lazy(Supplier<T> supplier) {
        this.supplier = supplier;
    }

    synchronized T get() {
        if (value == null) {
            value = supplier.get();
        }
        return value;
    }
}
