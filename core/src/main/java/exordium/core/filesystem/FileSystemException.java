// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.finding.UnreadableInput;

/** The structures of a file system contradict themselves. */
public class FileSystemException extends UnreadableInput {
    private static final long serialVersionUID = 1L;

    /** Where offset: bytes from the start of the file system. */
    public FileSystemException(String sentence, long offset) {
        super(sentence, offset);
    }

    public FileSystemException(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}
