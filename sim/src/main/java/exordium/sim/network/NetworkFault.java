// SPDX-License-Identifier: Apache-2.0
package exordium.sim.network;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.Coded;

/** What can be wrong between a board and its server. */
public enum NetworkFault implements Coded {
    CABLE_OUT("its cable is out"),
    NO_POWER("its port of the switch gives no power"),
    NO_LEASE("nobody hands out addresses"),
    NO_FILES("nobody hands out start files"),
    WRONG_FOLDER("start files are handed out from another folder"),
    NO_EXPORT("the server refuses its root"),
    SLOW_SERVER("the server's storage is slow"),
    SERVER_LATE("the server starts after the boards");

    private final String said;

    NetworkFault(String said) {
        this.said = said;
    }

    public String said() {
        return said;
    }

    /** Whether it is the server's, and so of all boards. */
    public boolean ofServer() {
        return this != CABLE_OUT && this != NO_POWER;
    }

    @JsonCreator
    public static NetworkFault of(String code) {
        return Coded.of(NetworkFault.class, code);
    }
}
