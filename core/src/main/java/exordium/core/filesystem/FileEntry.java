// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

/** What stands in a folder; size in bytes, for files alone. */
public record FileEntry(String name, EntryKind kind, long size) {
    /** What can stand in a folder. */
    public enum EntryKind {
        FOLDER,
        FILE,
        LINK,
        OTHER
    }
}
