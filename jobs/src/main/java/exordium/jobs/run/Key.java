// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import java.util.Optional;

/**
 * What a deed has in its hands where that is no drive: one deed at a time has it, in whatever process.
 *
 * @param code as it stands in the row
 * @param name as people say it
 * @param waits whether whoever comes second waits a little, because such deeds are short
 * @param medium of the register, where the deed is about one as well
 */
public record Key(String code, String name, boolean waits, Optional<String> medium) {
    Key(String code, String name, boolean waits) {
        this(code, name, waits, Optional.empty());
    }

    static final String WORKSPACE = "workspace";

    public static Key board(String id) {
        return new Key("board " + id, id, true);
    }

    /** The same with the medium that goes in or out. */
    Key about(Optional<String> other) {
        return new Key(code, name, waits, other);
    }

    public static Key vault() {
        return new Key("vault", "the vault", false);
    }

    /** A place on the shelf, by the name of the file in it. */
    public static Key shelf(String file) {
        return new Key(file, file, false);
    }

    public static Key kit() {
        return new Key("network kit", "the network kit", false);
    }

    public static Key families() {
        return new Key("families", "the families", true);
    }

    public static Key releases() {
        return new Key("releases", "the releases", true);
    }

    public static Key drawer() {
        return new Key("drawer", "the drawer", true);
    }

    /** All of it: nothing else is done meanwhile. */
    public static Key workspace() {
        return new Key(WORKSPACE, "the workspace", false);
    }

    boolean excludes(String other) {
        return code.equals(other) || code.equals(WORKSPACE) || other.equals(WORKSPACE);
    }
}
