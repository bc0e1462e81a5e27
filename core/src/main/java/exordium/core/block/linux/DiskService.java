// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.BlockDevice;
import exordium.core.block.Closing;
import exordium.core.block.MachineDrive;
import exordium.core.block.SameBytes;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * The disk service that desktops have (udisks2, its D-Bus interface org.freedesktop.UDisks2.Block): it asks the user in the
 * desktop's own way and hands the opened drive over. A drive that is mounted is refused by the kernel, which opens it
 * exclusively.
 */
final class DiskService {
    private static final String SERVICE = "org.freedesktop.UDisks2";
    private static final String ERRORS = SERVICE + ".Error.";
    private static final Pattern OTHER = Pattern.compile("[^A-Za-z0-9]");
    private static final int EXCLUSIVE = 0200;
    private static final Basis ASKED = Basis.computed("asking the system's disk service");

    private DiskService() {}

    static boolean there() {
        try (MessageBus bus = MessageBus.open()) {
            return bus.knows(SERVICE);
        } catch (IOException e) {
            return false;
        }
    }

    /**
     * Opens a drive; empty where there is no such service, or it does not know the drive.
     *
     * @throws Refused when leave was not given, or the drive is in use
     */
    static Optional<BlockDevice> open(MachineDrive drive, boolean forWriting) throws IOException {
        if (!there()) {
            return Optional.empty();
        }
        List<Closeable> held = new ArrayList<>();
        try (MessageBus bus = MessageBus.open()) {
            if (forWriting) {
                // Loop devices over the same bytes are held as well; whatever has one of them mounted stops this here.
                for (Path node : SameBytes.at(drive.node()).otherNodes()) {
                    ask(bus, node, "r", EXCLUSIVE, descriptor -> held.add(HandedDevice.hold(descriptor)));
                }
            }
            return Optional.of(ask(
                    bus,
                    drive.node(),
                    forWriting ? "rw" : "r",
                    forWriting ? EXCLUSIVE : 0,
                    descriptor -> HandedDevice.of(drive, descriptor, forWriting, held)));
        } catch (MessageBus.BusError e) {
            Closing.all(held);
            if (e.name().endsWith("UnknownObject")
                    || e.name().endsWith("UnknownMethod")
                    || e.name().endsWith("ServiceUnknown")) {
                return Optional.empty();
            }
            throw refused(drive, e);
        } catch (IOException | RuntimeException e) {
            Closing.all(held);
            throw e;
        }
    }

    private static <T> T ask(MessageBus bus, Path node, String mode, int flags, MessageBus.Handed<T> handed)
            throws IOException {
        return bus.descriptor(
                SERVICE,
                "/org/freedesktop/UDisks2/block_devices/" + element(String.valueOf(node.getFileName())),
                SERVICE + ".Block",
                "OpenDevice",
                mode,
                Map.of("flags", flags),
                handed);
    }

    /** As the service writes a kernel name into a path: what is neither letter nor digit as an underscore and its code. */
    static String element(String kernelName) {
        return OTHER.matcher(kernelName)
                .replaceAll(match -> String.format("_%02x", (int) match.group().charAt(0)));
    }

    private static RuntimeException refused(MachineDrive drive, MessageBus.BusError no) {
        String what = no.name().startsWith(ERRORS) ? no.name().substring(ERRORS.length()) : no.name();
        String message = String.valueOf(no.getMessage());
        if (message.contains("busy") || what.equals("DeviceBusy")) {
            return new Refused(Finding.stop(
                    "target-in-use",
                    drive.node()
                            + " is in use at this moment: mounted somewhere, or part of something else. Nothing was touched.",
                    ASKED));
        }
        String words =
                switch (what) {
                    case "NotAuthorizedDismissed" -> "the question for leave was closed without an answer";
                    case "NotAuthorizedCanObtain" ->
                        "leave could be given, but nobody could be asked: start this in a desktop session, or start pkttyagent beside it";
                    case "NotAuthorized" -> "this user has no leave to open it";
                    default -> message;
                };
        return new Refused(Finding.stop(
                "target-not-permitted", drive.node() + " was not opened: " + words + ". Nothing was touched.", ASKED));
    }
}
