// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import java.io.IOException;
import java.util.Optional;

/** Something real that does a part of what is rehearsed. */
public interface RealPeer {
    String title();

    /** Why it says nothing of this bench, as a sentence; empty where it can be asked. */
    Optional<String> silent(RealBench bench);

    Compared compare(RealBench bench) throws IOException;
}
