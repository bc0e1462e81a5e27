// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * An order as a list of the board's own names: kernel environment targets with spaces between (U-Boot documentation,
 * boot_targets), or entry numbers with commas between (UEFI specification 3.1, BootOrder).
 */
public final class NamedOrder implements OrderDialect {
    private final Map<String, StartSource> names;
    private final String separator;
    private final Basis basis;

    NamedOrder(BoardProfile profile, String separator) {
        this.names = profile.order().names();
        this.separator = separator;
        this.basis = separator.equals(",")
                ? Basis.standard("UEFI specification 3.1, boot manager")
                : Basis.standard("U-Boot documentation, standard boot");
    }

    @Override
    public DecodedOrder decode(String value) {
        List<StartSource> sources = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        String bare = value.strip().replaceAll("^\"|\"$", "");
        List<String> words = Arrays.stream(bare.split(separator.equals(",") ? "\\s*,\\s*" : "\\s+"))
                .filter(word -> !word.isEmpty())
                .toList();
        for (String word : words) {
            StartSource source = names.get(word);
            if (source == null) {
                findings.add(Finding.stop("name-unknown", "\"" + word + "\" is no place this board knows.", basis));
            } else {
                sources.add(source);
            }
        }
        if (words.isEmpty()) {
            findings.add(
                    Finding.stop("order-empty", "The order is empty.", basis).about(Subject.UNREADABLE_ORDER));
        } else if (!sources.isEmpty()) {
            OrderFindings.of(sources).stream()
                    .filter(finding -> !finding.isAbout(Subject.ORDER_END))
                    .forEach(findings::add);
            slowFirst(sources).ifPresent(findings::add);
        }
        return new DecodedOrder(value, List.copyOf(sources), Finding.worstFirst(findings));
    }

    @Override
    public String encode(List<StartSource> sources) throws UnreadableInput {
        if (sources.isEmpty()) {
            throw new UnreadableInput("An order needs at least one source.");
        }
        List<String> words = new ArrayList<>();
        for (StartSource source : sources) {
            words.add(names.entrySet().stream()
                    .filter(entry -> entry.getValue() == source)
                    .map(Map.Entry::getKey)
                    .findFirst()
                    .orElseThrow(() -> new UnreadableInput("This board has no name for " + source.code() + ".")));
        }
        return String.join(separator, words);
    }

    @Override
    public List<StartSource> available() {
        return names.values().stream().distinct().toList();
    }

    private java.util.Optional<Finding> slowFirst(List<StartSource> sources) {
        boolean network = sources.get(0) == StartSource.NETWORK || sources.get(0) == StartSource.NETWORK_INSTALL;
        boolean drive = sources.stream().anyMatch(StartSource::holdsMedium);
        return network && drive
                ? java.util.Optional.of(Finding.caution(
                        "network-first",
                        "The network is tried before any drive; without a server that costs minutes. Move the drive up.",
                        Basis.practice()))
                : java.util.Optional.empty();
    }
}
