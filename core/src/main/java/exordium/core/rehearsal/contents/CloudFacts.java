// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.MissingNode;
import com.fasterxml.jackson.databind.node.TextNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.kernelline.IpWord;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/** Names and addresses in cloud files (cloud-init documentation: modules, network config version 2). */
public final class CloudFacts {
    private static final String NETWORK = "network-config";
    private static final int LARGEST = 1 << 20;
    private static final ObjectMapper YAML = new ObjectMapper(new YAMLFactory());

    private CloudFacts() {}

    private static JsonNode read(MediumFiles files, String name) {
        return read(files.body(name).map(body -> body.text()).orElse(""));
    }

    private static JsonNode read(String text) {
        try {
            JsonNode node = YAML.readTree(text);
            return node == null ? MissingNode.getInstance() : node;
        } catch (JsonProcessingException e) {
            return MissingNode.getInstance();
        }
    }

    private static Optional<String> text(JsonNode node) {
        return node.isValueNode() && !node.asText().isEmpty() ? Optional.of(node.asText()) : Optional.empty();
    }

    public static Optional<String> hostName(MediumFiles files) {
        return text(read(files, "user-data").path("hostname"))
                .or(() -> text(read(files, "meta-data").path("local-hostname")));
    }

    public static Optional<String> user(MediumFiles files) {
        return text(read(files, "user-data").path("users").path(0).path("name"));
    }

    public static Optional<String> address(MediumFiles files) {
        return address(read(files, NETWORK));
    }

    /** The same of the file's bytes. */
    public static Optional<String> address(byte[] file) {
        return file.length > LARGEST ? Optional.empty() : address(read(new String(file, StandardCharsets.UTF_8)));
    }

    private static Optional<String> address(JsonNode file) {
        JsonNode network = file.path("network").isObject() ? file.path("network") : file;
        for (JsonNode device : network.path("ethernets")) {
            for (JsonNode each : device.path("addresses")) {
                // Version 2 lists addresses as text, or with options behind them as a key.
                Optional<String> address = text(each.isObject() && !each.isEmpty()
                                ? TextNode.valueOf(each.fieldNames().next())
                                : each)
                        .map(words -> words.replaceFirst("/.*", ""))
                        .filter(words -> IpWord.number(words).isPresent());
                if (address.isPresent()) {
                    return address;
                }
            }
        }
        return Optional.empty();
    }
}
