// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.quantity.Coded;

/** Why a start ended as it did. Codes are part of the command line's contract. */
public enum Cause implements Coded {
    NONE("runs"),
    SUPPLY_TOO_WEAK("weak supply"),
    RECOVERY_WRITTEN("recovery"),
    FIRMWARE_MISSING("no firmware"),
    NO_SOURCE_LEFT("no source"),
    STOPPED_BY_ORDER("stopped"),
    NO_PARTITION_TABLE("no table"),
    NO_START_PARTITION("no start"),
    NO_START_FILES("no files"),
    KERNEL_FOR_OTHER_BOARD("other board"),
    SETTINGS_BROKEN("settings"),
    KERNEL_LINE_BROKEN("kernel line"),
    ROOT_NOT_FOUND("no root"),
    ROOT_AMBIGUOUS("two roots"),
    ROOT_UNREADABLE("root broken"),
    FSTAB_MISSING_DEVICE("fstab"),
    DRIVE_NOT_SEEN("not seen"),
    DRIVE_WRONG_KIND("wrong kind"),
    PCIE_OFF("PCIe off"),
    FIRMWARE_TOO_OLD("old firmware"),
    FUSE_NOT_SET("fuse not set"),
    NETWORK_NO_LINK("no link"),
    NETWORK_NO_LEASE("no lease"),
    NETWORK_NO_DIRECTORY("no directory"),
    NETWORK_NO_FILES("no net files"),
    NETWORK_NO_EXPORT("no export");

    private final String shortText;

    Cause(String shortText) {
        this.shortText = shortText;
    }

    /** Two words at most, for a cell of the day sheet. */
    public String shortText() {
        return shortText;
    }
}
