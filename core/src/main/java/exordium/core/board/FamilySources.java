// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import exordium.core.finding.Finding;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Where the fields of a described family are from; one not named here is told by the file it stands in. */
public record FamilySources(@JsonValue Map<String, FieldSource> byField) {
    /** Of a family that was written down whole. */
    public static final FamilySources NONE = new FamilySources(Map.of());

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public FamilySources {
        byField = Map.copyOf(byField);
    }

    /** Nothing looked at yet: all as it is there. */
    public static FamilySources allAs(String family) {
        Map<String, FieldSource> all = new LinkedHashMap<>();
        Arrays.stream(FamilyField.values()).forEach(each -> all.put(each.code(), FieldSource.as(family)));
        return new FamilySources(all);
    }

    /** The same with these fields from there. */
    public FamilySources with(FieldSource source, FamilyField... fields) {
        Map<String, FieldSource> now = new TreeMap<>(byField);
        Arrays.stream(fields).forEach(each -> now.put(each.code(), source));
        return new FamilySources(now);
    }

    public Optional<FieldSource> of(FamilyField field) {
        return Optional.ofNullable(byField.get(field.code()));
    }

    /** The family one of these is as in, where nobody looked at it. */
    public Optional<String> guessed(FamilyField... fields) {
        return Arrays.stream(fields)
                .flatMap(each -> of(each).stream())
                .filter(FieldSource::inherited)
                .map(FieldSource::from)
                .findFirst();
    }

    /** What is said behind a finding that rests on one of these; nothing where they were looked at. */
    public String doubt(FamilyField... fields) {
        return doubt(List.of(fields));
    }

    public String doubt(List<FamilyField> fields) {
        return fields.stream()
                .filter(each -> of(each).filter(FieldSource::inherited).isPresent())
                .findFirst()
                .map(each -> " This rests on " + each.code() + ", which is "
                        + of(each).orElseThrow().said() + ".")
                .orElse("");
    }

    /** The finding, which is no stop where what it rests on was not looked at, and says so. */
    public Finding judged(Finding finding, FamilyField... fields) {
        return judged(finding, List.of(fields));
    }

    public Finding judged(Finding finding, List<FamilyField> fields) {
        String doubt = doubt(fields);
        if (doubt.isEmpty()) {
            return finding;
        }
        return finding.stops() ? finding.asCaution(doubt) : finding.saidWith(doubt);
    }

    /** Those that nobody looked at, or that are not known at all; most useful to know first. */
    public List<FamilyField> unknownIn(BoardProfile family) {
        return Arrays.stream(FamilyField.values())
                .filter(each -> each.missingIn(family)
                        || (each.in(family).isPresent()
                                && of(each).filter(FieldSource::inherited).isPresent()))
                .toList();
    }
}
