// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Orders decoded and encoded. */
class OrderCommandTest extends Commands {
    private static List<String> texts(JsonNode array) {
        List<String> texts = new java.util.ArrayList<>();
        array.forEach(each -> texts.add(each.asText()));
        return texts;
    }

    @Test
    void aHexOrderIsDecodedAndEncodedBack() {
        Terminal.Ran decoded = terminal.json("order", "decode", "--profile", "plover-5", "0xf416");
        assertThat(decoded.code()).isZero();
        assertThat(texts(decoded.json().get("sources"))).containsExactly("nvme", "card", "usb", "restart");
        Terminal.Ran encoded = terminal.json("order", "encode", "--profile", "plover-5", "nvme,card,usb,restart");
        assertThat(encoded.json().get("value").asText()).isEqualTo("0xf416");
    }

    @ParameterizedTest
    @CsvSource({
        "0xF41, order-upper-case",
        "f41, order-no-prefix",
        "0xf4g, order-not-hex",
        "'', order-empty",
        "0x123456789, order-too-long",
    })
    void aBrokenOrderGetsOneClearFinding(String value, String code) {
        Terminal.Ran ran = terminal.json("order", "decode", "--profile", "plover-5", value);
        assertThat(ran.code()).isEqualTo(ExitCode.BAD_INPUT);
        assertThat(ran.json().get("findings")).hasSize(1);
        assertThat(ran.json().get("findings").get(0).get("code").asText()).isEqualTo(code);
        assertThat(ran.json().get("findings").get(0).get("text").asText()).endsWith(".");
    }

    @Test
    void theRegisterIsTakenAsItIsPrinted() {
        assertThat(terminal.json("order", "decode", "--profile", "plover-3", "17:3020000a")
                        .json()
                        .get("sources")
                        .toString())
                .isEqualTo("[\"card\",\"usb\"]");
    }
}
