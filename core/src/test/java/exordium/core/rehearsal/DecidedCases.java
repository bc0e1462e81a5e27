// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static exordium.core.testing.Benches.attached;
import static exordium.core.testing.Benches.bench;

import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Where the facts leave it open what a start comes to: cases as they were decided, on real disks made with general tools. */
abstract class DecidedCases {
    static final String BOARD = "plover-5";

    @TempDir
    Path folder;

    Path good;

    @BeforeEach
    void goodDisk() throws IOException {
        good = disk().build("good.img");
    }

    DiskBuilder disk() {
        return new DiskBuilder(folder).id("7c41e0b2");
    }

    Bench card(Path disk) throws IOException {
        return bench(BOARD, "0xf41", attached(BOARD, "card", "card-quick", disk));
    }

    Path blank(String name) throws IOException {
        Path file = folder.resolve(name);
        DiskBuilder.blank(file, 8 * DiskBuilder.MIB);
        return file;
    }

    Cause cause(MediumContents contents) {
        return Rehearsal.of(bench(
                        BOARD,
                        "0xf1",
                        new Bench.Attached("card", "worn", Benches.kind("card-quick"), false, true, contents)))
                .cause();
    }

    Bench curlew(String menu) throws IOException {
        Path disk = disk().without("kernel-64.img")
                .start("kernel-32.img", "k")
                .start("curlew-e-b.dtb", "t")
                .root("sbin/init", "\u007fELF\u0001")
                .build("curlew.img");
        Path file = Files.writeString(folder.resolve("extlinux.conf"), menu);
        String at = disk + "@@4194304";
        GeneralTools.run("mmd", "-i", at, "::extlinux");
        GeneralTools.run("mcopy", "-i", at, file.toString(), "::extlinux/extlinux.conf");
        return bench("curlew-e", "mmc0", attached("curlew-e", "card", "card-quick", disk));
    }
}
