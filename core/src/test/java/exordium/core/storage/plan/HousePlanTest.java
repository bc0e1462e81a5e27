// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class HousePlanTest {
    private static final MediaCatalogue MEDIA = MediaCatalogue.shipped();

    private static StorageChoice choice(Role role) {
        StorageNeed need = new StorageNeed(
                Optional.empty(),
                role,
                new Supply(5, 3, "adapter"),
                new StorageNeed.Host(new Watts(6.4), new Watts(6), 64, 4, 20),
                StorageRules.USUAL,
                List.of(
                        new StorageNeed.Socket("card", "Card slot", List.of("sd"), Link.SD_SDR50, List.of()),
                        new StorageNeed.Socket("usb1", "USB 1", List.of("usb"), Link.USB_5G, List.of())));
        return new StorageChoice(need, MEDIA.enclosures(), KnownDrives.NONE, "plover-4");
    }

    private static MediumKind.Medium medium(String id, String kind, String rated, String written) {
        return new MediumKind.Medium(
                id,
                id,
                MEDIA.kind(kind).orElseThrow(),
                ByteSize.ofGigabytes(31.9),
                Optional.of(ByteSize.parse(rated)),
                ByteSize.parse(written),
                0);
    }

    private static HousePlan.Case board(String id, MediumKind.Medium current) {
        return new HousePlan.Case(id, id, choice(Role.USUAL), Optional.ofNullable(current));
    }

    private static HousePlan.Row row(HousePlan plan, String board) {
        return plan.rows().stream()
                .filter(each -> each.board().equals(board))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatDoesIsKeptWhatIsWornIsReplacedFromTheDrawerThenBought() {
        MediumKind.Medium good = medium("good", "card-quick", "60TB", "1TB");
        MediumKind.Medium worn = medium("worn", "card-quick", "31TB", "30.9TB");
        MediumKind.Medium spare = medium("spare", "card-quick", "60TB", "0.1TB");
        HousePlan plan = HousePlan.of(
                List.of(board("fine", good), board("tired", worn), board("bare", null)),
                List.of(spare),
                MEDIA.offered());
        assertThat(row(plan, "fine").deed()).isEqualTo(HousePlan.Advice.KEEP);
        assertThat(row(plan, "bare").deed()).isEqualTo(HousePlan.Advice.MOVE);
        assertThat(row(plan, "bare").medium().orElseThrow().medium().id()).isEqualTo("spare");
        assertThat(row(plan, "tired").deed()).isEqualTo(HousePlan.Advice.BUY);
        assertThat(row(plan, "tired").reason()).contains("worn lasts about");
        assertThat(plan.cost())
                .isEqualTo(row(plan, "tired").medium().orElseThrow().price());
        assertThat(plan.rows()).extracting(HousePlan.Row::board).containsExactly("fine", "tired", "bare");
    }

    @Test
    void aMediumGoesToOneBoardOnly() {
        MediumKind.Medium spare = medium("spare", "card-quick", "60TB", "0.1TB");
        HousePlan plan = HousePlan.of(List.of(board("a", null), board("b", null)), List.of(spare), List.of());
        assertThat(plan.rows())
                .extracting(HousePlan.Row::deed)
                .containsExactly(HousePlan.Advice.MOVE, HousePlan.Advice.NOTHING_FITS);
        assertThat(plan.cost()).isZero();
    }
}
