// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.desktop.board.firststart.FirstStartDraft;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Intents put together field by field, without a window. */
class FirstStartDraftTest {
    private final FirstStartDraft draft = new FirstStartDraft();

    @Test
    void whatIsTypedAndTakenOutAgainLeavesNothing() throws UnreadableInput {
        draft.set("account.name", "keeper");
        draft.set("network.kind", "fixed");
        draft.set("network.address", "192.168.4.20");
        draft.set("off", List.of("wifi"));
        assertThat(draft.intents().none()).isFalse();
        draft.set("account.name", null);
        draft.set("network.address", null);
        draft.set("network.kind", null);
        draft.set("off", null);
        assertThat(draft.intents()).isEqualTo(Intents.NONE);
    }

    @Test
    void secretsAreKeptOnlyAsWhatIsDerivedFromThem() throws UnreadableInput {
        draft.set("account.name", "keeper");
        draft.password("seven long words");
        draft.set("network.kind", "wifi");
        draft.set("network.wifi.name", "IEEE");
        draft.set("network.wifi.country", "PT");
        draft.passPhrase("password");
        assertThat(draft.intents()
                        .wantedNetwork()
                        .orElseThrow()
                        .wifi()
                        .orElseThrow()
                        .key()
                        .orElseThrow())
                .startsWith("f42c6fc5");
        assertThat(draft.shared().toString()).doesNotContain("seven", "\"password\"", "passPhrase");
        assertThatThrownBy(() -> draft.password("keeper")).isInstanceOf(UnreadableInput.class);
        draft.password("");
        assertThat(draft.get("account.passwordHash")).isEmpty();
    }

    @Test
    void whatIsNotRightYetIsNamed() {
        draft.set("clock.mhz", "fast");
        assertThatThrownBy(draft::intents).hasMessageContaining("\"fast\"").hasMessageContaining("clock.mhz");
        draft.set("clock", null);
        draft.set("timeZone", "Mars/Olympus");
        assertThatThrownBy(draft::intents).hasMessageContaining("Mars/Olympus");
    }

    @Test
    void aMendComesToWhatIsWantedAlready() throws UnreadableInput {
        draft.take(IntentsReader.of(Map.of("hostName", "tide-clock", "display", Map.of("mode", "1280x720"))));
        draft.add(IntentsReader.of(Map.of("display", Map.of("borders", false))));
        Intents both = draft.intents();
        assertThat(both.hostName()).contains("tide-clock");
        assertThat(both.display().orElseThrow().mode()).contains("1280x720");
        assertThat(both.display().orElseThrow().borders()).contains(false);
    }
}
