// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** The few lines that lie in a vault, by which a copy is put together again with general tools and without this program. */
public final class VaultScript {
    public static final String NAME = "restore.sh";

    private static final String TEXT =
            """
            #!/bin/sh
            # Puts a copy of this vault together again, without the program that made it:
            #   sh restore.sh BOARD/NAME.copy IMAGE
            # A .copy is text: a head, an empty line, then one line a chunk: place on the drive, bytes, SHA-256. The chunks lie in
            # packs/*.pack as zstd frames; packs/*.index says where: SHA-256, place in the pack, bytes of the frame, bytes in it.
            # What no line names is zeros. Needs awk, dd, sed, truncate and zstd. Ends with 0 only when every chunk was whole.
            set -eu
            trap 'rm -f "$2.piece"' EXIT
            here=$(cd "$(dirname "$0")" && pwd)
            size=$(sed -n '/^$/q; s/^bytes: //p' "$1")
            truncate -s 0 "$2"
            truncate -s "$size" "$2"
            sed '1,/^$/d; /^sha256 /d' "$1" | awk '
              FILENAME != "-" { pack = FILENAME; sub(/index$/, "pack", pack); in_pack[$1] = pack; at[$1] = $2; long[$1] = $3; next }
              !($3 in at) { print "chunk " $3 " is in no pack" > "/dev/stderr"; print "lost"; exit 1 }
              { print at[$3], long[$3], $1, in_pack[$3] }' "$here"/packs/*.index - |
            while read -r at long to pack; do
              if [ "$at" = lost ]; then exit 1; fi
              dd if="$pack" skip="$at" count="$long" iflag=skip_bytes,count_bytes bs=256k status=none | zstd -dcq > "$2.piece"
              dd if="$2.piece" of="$2" seek="$to" oflag=seek_bytes bs=128k conv=notrunc status=none
            done
            """;

    private VaultScript() {}

    /** Where it is not there yet, or is another one's. */
    static void put(Path vault) throws IOException {
        Path script = vault.resolve(NAME);
        if (!Files.isRegularFile(script) || !Files.readString(script).equals(TEXT)) {
            Path working = vault.resolve(NAME + ".part");
            Durable.write(working, TEXT);
            Files.move(working, script, StandardCopyOption.ATOMIC_MOVE);
        }
    }
}
