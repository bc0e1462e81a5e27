// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.InvalidPathException;
import java.nio.file.NoSuchFileException;
import java.util.concurrent.CancellationException;

/** What went wrong, in one sentence for a person. The platform's own file errors say no more than a path. */
public final class Sentence {
    private Sentence() {}

    public static String of(Exception failure) {
        if (failure instanceof AccessDeniedException denied) {
            return "You have no rights to " + denied.getFile()
                    + "; nothing was done. Ask for them, or run this as a user who has them.";
        }
        if (failure instanceof NoSuchFileException missing) {
            return "There is no " + missing.getFile() + ".";
        }
        if (failure instanceof FileAlreadyExistsException there) {
            return "There is a " + there.getFile() + " already.";
        }
        if (failure instanceof FileSystemException other && other.getReason() != null) {
            return other.getFile() + ": " + other.getReason() + ".";
        }
        if (failure instanceof Stopped) {
            return failure.getMessage();
        }
        if (failure instanceof CancellationException) {
            return "Stopped; nothing half-done was kept.";
        }
        boolean ours = failure instanceof IOException
                || failure instanceof Refused
                || failure instanceof IllegalArgumentException
                || failure instanceof InvalidPathException;
        return ours && failure.getMessage() != null
                ? failure.getMessage()
                : "Something went wrong inside the program (" + failure + "); nothing further was done.";
    }
}
