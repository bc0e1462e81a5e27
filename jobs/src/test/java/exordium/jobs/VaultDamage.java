// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.image.PublishedChecksum;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;

/** One random change of a vault's files, by chance or by somebody's hand. */
final class VaultDamage {
    private final Path vault;
    private final Random random;

    VaultDamage(Path vault, Random random) {
        this.vault = vault;
        this.random = random;
    }

    private List<Path> files(String suffix) throws IOException {
        try (Stream<Path> all = Files.walk(vault)) {
            return all.filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)
                            && file.toString().endsWith(suffix))
                    .sorted()
                    .toList();
        }
    }

    private <T> T any(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    private Path any(List<Path> of, Path otherwise) {
        return of.isEmpty() ? otherwise : any(of);
    }

    /** Gives what was done. */
    String change() throws IOException {
        String suffix = any(List.of(".pack", ".index", ".copy", ".img.zst"));
        List<Path> there = files(suffix);
        if (there.isEmpty()) {
            return "nothing";
        }
        Path file = any(there);
        String what = file.getFileName() + " ";
        return what + done(file, suffix);
    }

    private String done(Path file, String suffix) throws IOException {
        return switch (random.nextInt(9)) {
            case 0, 1 -> bit(file);
            case 2 -> cut(file);
            case 3 -> exchange(file, any(files(suffix)));
            case 4 -> link(file, any(files(suffix)));
            case 5 -> laterIndex();
            case 6 -> gone(file);
            case 7 -> digestsExchanged(any(files(".index"), file));
            default -> listThatLies(any(files(".copy"), file));
        };
    }

    private String bit(Path file) throws IOException {
        byte[] bytes = Files.readAllBytes(file);
        if (bytes.length < 16) {
            return "nothing";
        }
        int at = random.nextInt(4) == 0 ? random.nextInt(16) : random.nextInt(bytes.length);
        bytes[at] ^= (byte) (1 << random.nextInt(8));
        Files.write(file, bytes);
        return "bit of byte " + at;
    }

    private String cut(Path file) throws IOException {
        byte[] bytes = Files.readAllBytes(file);
        int length = random.nextInt(3) == 0 ? 0 : random.nextInt(bytes.length + 1);
        if (random.nextInt(3) == 0) {
            while (length > 0 && bytes[length - 1] != '\n') {
                length--;
            }
        }
        Files.write(file, Arrays.copyOf(bytes, length));
        return "cut to " + length;
    }

    private static String exchange(Path one, Path other) throws IOException {
        Path between = one.resolveSibling("between");
        Files.move(one, between);
        if (!one.equals(other)) {
            Files.move(other, one);
        }
        Files.move(between, other);
        return "exchanged with " + other.getFileName();
    }

    private String link(Path one, Path other) throws IOException {
        Path aside = vault.resolveSibling("aside-" + one.getFileName());
        Files.copy(other, aside, StandardCopyOption.REPLACE_EXISTING);
        Files.delete(one);
        Files.createSymbolicLink(one, aside);
        return "link to what is in " + other.getFileName();
    }

    private static String gone(Path file) throws IOException {
        Files.delete(file);
        return "gone";
    }

    /** With a pack that is another's, or rubbish. */
    private String laterIndex() throws IOException {
        List<String> digests = new ArrayList<>();
        List<String> places = new ArrayList<>();
        for (Path index : files(".index")) {
            for (String line : Files.readAllLines(index, StandardCharsets.ISO_8859_1)) {
                if (line.length() < 64) {
                    continue;
                }
                digests.add(line.substring(0, 64));
                places.add(line.substring(64));
            }
        }
        Collections.shuffle(places, random);
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < digests.size(); i += 1 + random.nextInt(3)) {
            lines.append(digests.get(i)).append(places.get(i)).append('\n');
        }
        Path packs = vault.resolve("packs");
        if (files(".pack").isEmpty() || Files.exists(packs.resolve("9999-01-01T000000Z-later.pack"))) {
            return "nothing";
        }
        Files.writeString(packs.resolve("9999-01-01T000000Z-later.index"), lines, StandardCharsets.ISO_8859_1);
        Files.copy(any(files(".pack")), packs.resolve("9999-01-01T000000Z-later.pack"));
        return "a later index";
    }

    private String digestsExchanged(Path index) throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(index, StandardCharsets.ISO_8859_1));
        if (lines.stream().anyMatch(line -> line.length() < 64) || lines.isEmpty()) {
            return "nothing";
        }
        int one = random.nextInt(lines.size());
        int other = random.nextInt(lines.size());
        String first = lines.get(one);
        String second = lines.get(other);
        lines.set(one, first.substring(0, 64) + second.substring(64));
        lines.set(other, second.substring(0, 64) + first.substring(64));
        Files.writeString(index, String.join("\n", lines) + "\n", StandardCharsets.ISO_8859_1);
        return "or " + index.getFileName() + " places of " + one + " and " + other + " exchanged";
    }

    /** Two digests exchanged, with a digest of its own that agrees. */
    private String listThatLies(Path list) throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(list, StandardCharsets.ISO_8859_1));
        int first = lines.indexOf("") + 1;
        int last = lines.size() - 1;
        if (first == 0
                || last - first < 2
                || lines.subList(first, last).stream().anyMatch(line -> line.length() < 64)) {
            return "nothing";
        }
        int one = first + random.nextInt(last - first);
        int other = first + random.nextInt(last - first);
        String mine = lines.get(one);
        String theirs = lines.get(other);
        lines.set(one, mine.substring(0, mine.length() - 64) + theirs.substring(theirs.length() - 64));
        lines.set(other, theirs.substring(0, theirs.length() - 64) + mine.substring(mine.length() - 64));
        String text = String.join("\n", lines.subList(0, last)) + "\n";
        byte[] digest = PublishedChecksum.newSha256().digest(text.getBytes(StandardCharsets.ISO_8859_1));
        Files.writeString(
                list, text + "sha256 " + HexFormat.of().formatHex(digest) + "\n", StandardCharsets.ISO_8859_1);
        return "or " + list.getFileName() + " lies";
    }
}
