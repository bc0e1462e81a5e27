// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Durable;
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
            # A .copy is text: a head, an empty line, one line a chunk (place on the drive, bytes, SHA-256), and at the end the SHA-256 of
            # all before. The chunks lie in packs/*.pack as zstd frames; packs/*.index says where: SHA-256, place in the pack, bytes of the
            # frame, bytes in it. What no line names is zeros. Needs awk, dd, head, mktemp, sed, sha256sum, tail, truncate and zstd.
            # Ends with 0, and IMAGE is there, only when the list and every chunk were what their SHA-256 says.
            set -eu
            no() { echo "$1; nothing was made" >&2; exit 1; }
            [ $# = 2 ] || no "Give a .copy and the image to make of it"
            [ -f "$1" ] || no "There is no file $1"
            [ ! -e "$2" ] || [ -f "$2" ] || no "$2 is no file; a drive is not written to, only an image made"
            here=$(cd "$(dirname "$0")" && pwd)
            work=$(mktemp -d "$2.XXXXXX")
            trap 'rm -rf "$work"' EXIT
            [ "$(head -n 1 "$1")" = "exordium-copy: 1" ] || no "$1 is no list of a copy that this script knows"
            sed '$d' "$1" > "$work/list"
            [ "$(tail -n 1 "$1")" = "sha256 $(sha256sum < "$work/list" | cut -c 1-64)" ] || no "$1 is not what was written"
            said() { sed -n "/^\\$/q; s/^$1: //p" "$work/list"; }
            taken=$(said taken | tr -d : | sed 's/\\..*//; s/Z$//')
            name=$(basename "$1")
            [ -z "$taken" ] || [ "$name" = "$(said board)-${taken}Z.copy" ] || no "$name holds the list of $(said board) of $(said taken)"
            truncate -s "$(said bytes)" "$work/image"
            sed '1,/^$/d' "$work/list" | awk '
              FILENAME != "-" { pack = FILENAME; sub(/index$/, "pack", pack); n[$1]++; where[$1, n[$1]] = $2 " " $3 " " pack; next }
              !($3 in n) { print $1, $2, $3, "- - -" }
              { for (i = n[$3]; i > 0; i--) print $1, $2, $3, where[$3, i] }' "$here"/packs/*.index - > "$work/plan"
            put=-1
            count=0
            while read -r to bytes sum at long pack; do
              [ "$to" != "$put" ] || continue
              [ "$at" != - ] || no "chunk $sum is in no pack"
              { dd if="$pack" skip="$at" count="$long" iflag=skip_bytes,count_bytes bs=256k status=none | zstd -dcq | head -c 131073
              } > "$work/piece" 2> /dev/null || true
              [ "$(wc -c < "$work/piece") $(sha256sum < "$work/piece" | cut -c 1-64)" = "$bytes $sum" ] || continue
              dd if="$work/piece" of="$work/image" seek="$to" oflag=seek_bytes bs=128k conv=notrunc status=none
              put=$to
              count=$((count + 1))
            done < "$work/plan"
            [ "$count" = "$(said chunks)" ] || no "$count of $(said chunks) chunks are whole"
            sync "$work/image"
            mv -f "$work/image" "$2"
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
