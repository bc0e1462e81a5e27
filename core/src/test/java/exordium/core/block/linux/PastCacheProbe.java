// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import java.nio.file.Path;

/** Says whether an opening of a drive that was handed over goes past the cache; run on other processors by benchmarks/arm64-run. */
final class PastCacheProbe {
    private PastCacheProbe() {}

    public static void main(String[] args) throws Exception {
        int descriptor = SystemCalls.open(Path.of(args[0]), false, false);
        System.out.println(SystemCalls.direct(descriptor) ? "past the cache" : "through the cache");
        SystemCalls.close(descriptor);
    }
}
