// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.PlayedMachine;
import exordium.desktop.DemoHouse;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.PluggedIn;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DriveWatchTest {
    @TempDir
    Path folder;

    @TempDir
    Path root;

    private PlayedMachine machine;
    private House house;

    @BeforeEach
    void open() throws IOException {
        machine = new PlayedMachine(root);
        Workbench workbench = DemoHouse.open(folder);
        workbench.rules().realDrives(true);
        house = new House(workbench, Runnable::run, machine.drives(), workbench.rules());
    }

    @AfterEach
    void close() {
        house.close();
    }

    private List<PluggedIn.Plugged> seen() {
        house.drives().look();
        return house.drives().pluggedProperty().get();
    }

    @Test
    void aMediumThatComesIsNamedAndOneThatGoesIsForgotten() throws IOException {
        assertThat(seen()).isEmpty();
        Media.Medium known = house.workbench().records().media().stream()
                .filter(each -> !each.serial().isEmpty())
                .findFirst()
                .orElseThrow();
        machine.plug("sdx", 64 << 20, known.serial());
        assertThat(seen()).singleElement().extracting(PluggedIn.Plugged::title).isEqualTo(known.name());
        assertThat(house.workbench().records().lastWords()).contains("plugged in as sdx");
        long entries = house.workbench().records().log().size();
        assertThat(seen()).hasSize(1);
        assertThat(house.workbench().records().log()).hasSize((int) entries);
        machine.unplug("sdx");
        assertThat(seen()).isEmpty();
    }
}
