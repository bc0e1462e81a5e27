// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.EfiLoadOption;
import exordium.core.bootorder.EfiPathNode;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.bootorder.OrderDialect;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.Cause;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** EDK2 under qemu: which entries of BootOrder it tries, and which drive's fallback program it starts. */
public final class Edk2 implements RealPeer {
    static final Path FIRMWARE = Path.of("/usr/share/AAVMF/AAVMF_CODE.fd");
    private static final String PROGRAM = "EFI/BOOT/BOOTAA64.EFI";
    /** Above what a firmware makes itself. */
    private static final int FIRST_NUMBER = 0x10;

    private static final long SECONDS = 300;
    private static final Pattern TRIED =
            Pattern.compile("BdsDxe: (?:loading|failed to load) Boot(00[1-9A-F][0-9A-F]) ");
    private static final Pattern STARTED = Pattern.compile("EFIPAYLOAD (\\S+)");
    /** What it makes itself comes behind the entries of the list, when none of them started anything. */
    private static final String OWN = "BdsDxe: [a-z ]+ Boot000[0-9A-F] ";

    private static final Pattern OVER = Pattern.compile("EFIPAYLOAD \\S+\\s|" + OWN);

    @Override
    public String title() {
        return "EDK2";
    }

    @Override
    public Optional<String> silent(RealBench real) {
        BoardProfile profile = real.bench().profile();
        if (!profile.order().form().entries()) {
            return Optional.of("The firmware of a " + profile.id() + " is none that EDK2 stands for.");
        }
        if (real.trace().cause() == Cause.FIRMWARE_MISSING || real.trace().cause() == Cause.SUPPLY_TOO_WEAK) {
            return Optional.of("It never comes to its entries: nothing for EDK2 to show.");
        }
        return Files.isReadable(FIRMWARE) && Files.isExecutable(EmulatedBoard.PROGRAM)
                ? Optional.empty()
                : Optional.of("EDK2 is not installed here: sudo apt-get install qemu-system-arm qemu-efi-aarch64");
    }

    @Override
    public Compared compare(RealBench real) throws IOException {
        Bench bench = real.bench();
        EmulatedBoard machine = new EmulatedBoard("qemu-xhci");
        List<Integer> order = new ArrayList<>();
        Map<Integer, EfiLoadOption> entries = new LinkedHashMap<>();
        Map<Integer, String> ports = new LinkedHashMap<>();
        Map<String, EfiPathNode[]> ways = new LinkedHashMap<>();
        for (Bench.Attached medium : real.seen()) {
            Path copy = real.folder().resolve("edk2-" + medium.port() + ".img");
            try (BlockDevice drive = real.drives().get(medium.port()).open()) {
                DriveCopy.make(drive, medium.contents(), stands(medium), copy);
            }
            ways.put(
                    medium.port(),
                    machine.way(
                            bench.profile().port(medium.port()).orElseThrow().source()));
            machine.drive(bench.profile().port(medium.port()).orElseThrow().source(), copy);
        }
        for (StartSource source :
                OrderDialect.of(bench.profile()).decode(bench.order()).sources()) {
            for (Bench.Attached medium :
                    bench.mediaOn(source).filter(real.seen()::contains).toList()) {
                int number = FIRST_NUMBER + ports.size();
                ports.put(number, medium.port());
                entries.put(number, EfiLoadOption.active(medium.port(), ways.get(medium.port())));
                order.add(number);
            }
        }
        Path flash = real.folder().resolve("edk2-variables.fd");
        Files.write(flash, EfiStore.of(new EfiVariables(order, entries)));
        machine.flash(0, FIRMWARE, true).flash(1, flash, false);
        String log = Console.of(machine.command(), real.folder().resolve("edk2.log"), OVER, SECONDS);
        String ours = log.split(OWN, 2)[0];
        List<String> tried = TRIED.matcher(ours)
                .results()
                .map(found -> ports.getOrDefault(Integer.parseInt(found.group(1), 16), "?"))
                .distinct()
                .toList();
        return new Compared(
                "EDK2",
                List.of(
                        new Compared.Point("tried", String.join(", ", real.tried()), String.join(", ", tried)),
                        new Compared.Point(
                                "started from",
                                real.trace()
                                        .startedFrom()
                                        .filter(ports::containsValue)
                                        .orElse("nothing"),
                                STARTED.matcher(ours)
                                        .results()
                                        .map(found -> found.group(1))
                                        .findFirst()
                                        .orElse("nothing"))),
                List.of(
                        "Entries of the network were left out, as were those it makes itself behind the list; what the started program does with its kernel is not seen here."),
                log);
    }

    private static Map<String, byte[]> stands(Bench.Attached medium) throws IOException {
        return medium.contents().start().filter(start -> start.hasFile(PROGRAM)).isPresent()
                ? Map.of(PROGRAM, StandInFiles.program(medium.port()))
                : Map.of();
    }
}
