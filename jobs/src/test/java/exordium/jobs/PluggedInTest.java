// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.MachineDrives;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.PlayedMachine;
import exordium.core.writing.WritePlan;
import exordium.jobs.bench.Targets;
import exordium.jobs.media.PluggedIn;
import exordium.jobs.writing.WriteJob;
import exordium.store.Logbook;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A machine is played by a tree of files in the form sysfs and procfs have; its device node is a file of the test's. */
class PluggedInTest {
    private static final long BYTES = 64L << 20;

    @TempDir
    Path folder;

    @TempDir
    Path machine;

    private House house;
    private PlayedMachine played;
    private MachineDrives drives;
    private PluggedIn pluggedIn;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
        house.bench.rules().realDrives(true);
        played = new PlayedMachine(machine);
        drives = played.drives();
        pluggedIn = new PluggedIn(house.bench, drives);
    }

    private Path plug(String id, String serial) throws IOException {
        return played.plug(id, BYTES, serial);
    }

    private List<String> said() {
        return house.workspace.log().all().stream().map(Logbook.Entry::text).toList();
    }

    @Test
    void aKnownMediumIsRecognisedByItsSerialWhenItIsPluggedIn() throws IOException {
        Media.Medium known = house.workspace.media().all().stream()
                .filter(each -> !each.serial().isEmpty())
                .findFirst()
                .orElseThrow();
        plug("sdx", known.serial());
        List<PluggedIn.Plugged> now = pluggedIn.now();
        assertThat(now).singleElement().satisfies(each -> assertThat(each.medium())
                .contains(known));
        assertThat(pluggedIn.arrived(List.of(), now)).singleElement().asString().contains("plugged in as sdx");
        assertThat(pluggedIn.arrived(now, now)).isEmpty();
        assertThat(said()).anyMatch(text -> text.contains("plugged in as sdx"));
    }

    @Test
    void anotherIsTakenInAndKnownFromThenOnByWhatIsOnIt() throws IOException {
        Path node = plug("sdx", "");
        GeneralTools.feed("label: dos\nlabel-id: 0x51a3c0de\nstart=2048, type=c\n", "sfdisk", "-q", node.toString());
        PluggedIn.Plugged stranger = pluggedIn.now().get(0);
        assertThat(stranger.medium()).isEmpty();
        assertThat(stranger.title()).isEqualTo("BRACK STICK");
        Media.Medium taken = pluggedIn.takeIn(stranger.drive(), "Brack 64 M", "stick");
        assertThat(house.workspace.media().details(taken.id()).diskId()).contains("51a3c0de");
        assertThat(house.workspace.media().details(taken.id()).label()).isNotBlank();
        assertThat(pluggedIn.now().get(0).medium().map(Media.Medium::id)).contains(taken.id());
        assertThatThrownBy(() -> pluggedIn.takeIn(stranger.drive(), "Brack again", "stick"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("in the register already");
    }

    @Test
    void drivesThatAreOffAreNotLookedAtAndTheMachinesOwnAreNoneOfTheDrawer() throws IOException {
        plug("sdx", "S1");
        played.put("proc/self/mountinfo", "1 1 8:1 / / rw - ext4 /dev/sdx rw\n");
        assertThat(pluggedIn.now()).isEmpty();
        played.put("proc/self/mountinfo", "22 28 0:20 / /proc rw shared:5 - proc proc rw\n");
        assertThat(pluggedIn.now()).hasSize(1);
        house.bench.rules().realDrives(false);
        assertThat(pluggedIn.now()).isEmpty();
    }

    /** The wear of a real drive is put down with its entry, as that of a virtual one is. */
    @Test
    void aWriteToARealDriveIsPutDownWithItsMedium() throws IOException {
        Path node = plug("sdx", "BRK-77");
        Media.Medium taken = pluggedIn.takeIn(pluggedIn.now().get(0).drive(), "Brack 77", "stick");
        Path image = folder.resolve("small.img");
        Files.write(image, new byte[1 << 20]);
        Targets targets = new Targets(house.bench.reader(), drives, folder, true);
        Targets.Target target = targets.at(node, ByteSize.ZERO);
        assertThat(target.serial()).isEqualTo("BRK-77");
        WritePlan plan = WritePlan.of(
                ImageFile.open(image), ByteSize.of(1 << 20), target.description(), WritePlan.Options.USUAL, "sdx");
        WriteJob.run(house.bench, plan, target, Optional.empty(), TransferWatch.NONE);
        assertThat(house.workspace.media().require(taken.id()).written()).isEqualTo(ByteSize.of(1 << 20));
    }
}
