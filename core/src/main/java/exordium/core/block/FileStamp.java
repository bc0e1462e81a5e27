// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Map;

/** Another text whenever a file may hold something else: its number, its length, and when it was written and changed (stat(2)). */
public final class FileStamp {
    private FileStamp() {}

    /** Follows links. */
    public static String of(Path file) throws IOException {
        try {
            Map<String, Object> facts = Files.readAttributes(file, "unix:dev,ino,size,lastModifiedTime,ctime");
            return facts.get("dev") + " " + facts.get("ino") + " " + facts.get("size") + " "
                    + facts.get("lastModifiedTime") + " " + facts.get("ctime");
        } catch (UnsupportedOperationException | IllegalArgumentException e) {
            BasicFileAttributes facts = Files.readAttributes(file, BasicFileAttributes.class);
            return facts.fileKey() + " " + facts.size() + " " + facts.lastModifiedTime();
        }
    }
}
