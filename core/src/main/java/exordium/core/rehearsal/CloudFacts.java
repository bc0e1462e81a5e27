// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.MissingNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import exordium.core.firststart.dialect.MediumFiles;
import java.util.Optional;

/** Names and addresses in cloud files (cloud-init documentation: modules, network config version 2). */
final class CloudFacts {
    private static final ObjectMapper YAML = new ObjectMapper(new YAMLFactory());

    private CloudFacts() {}

    private static JsonNode read(MediumFiles files, String name) {
        try {
            JsonNode node =
                    YAML.readTree(files.body(name).map(body -> body.text()).orElse(""));
            return node == null ? MissingNode.getInstance() : node;
        } catch (JsonProcessingException e) {
            return MissingNode.getInstance();
        }
    }

    private static Optional<String> text(JsonNode node) {
        return node.isValueNode() && !node.asText().isEmpty() ? Optional.of(node.asText()) : Optional.empty();
    }

    static Optional<String> hostName(MediumFiles files) {
        return text(read(files, "user-data").path("hostname"))
                .or(() -> text(read(files, "meta-data").path("local-hostname")));
    }

    static Optional<String> user(MediumFiles files) {
        return text(read(files, "user-data").path("users").path(0).path("name"));
    }

    static Optional<String> address(MediumFiles files) {
        JsonNode file = read(files, "network-config");
        JsonNode network = file.path("network").isObject() ? file.path("network") : file;
        for (JsonNode device : network.path("ethernets")) {
            Optional<String> address = text(device.path("addresses").path(0));
            if (address.isPresent()) {
                return address.map(each -> each.replaceFirst("/.*", ""));
            }
        }
        return Optional.empty();
    }
}
