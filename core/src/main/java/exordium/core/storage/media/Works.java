// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.profile.Signatures;
import exordium.core.quantity.Coded;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.security.PublicKey;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What works with which family of boards and what does not, each with who says so: an open text to hand on (docs/formats/works.md). It is
 * what somebody saw, never a proof.
 */
public record Works(List<Entry> entries) {
    public static final Works NONE = new Works(List.of());
    public static final String SCHEMA = "/exordium/profiles/works.schema.json";
    private static final String FORMAT = "exordium-works-1";
    private static final String SIGNATURE = "\n# signature: ";
    private static final String KEY = "\n# key: ";

    /** What an entry is of. */
    public enum Kind implements Coded {
        DRIVE,
        ENCLOSURE,
        CARRIER,
        SUPPLY,
        IMAGE;

        @JsonCreator
        public static Kind of(String code) {
            return Coded.of(Kind.class, code);
        }
    }

    /**
     * One thing that was seen.
     *
     * @param name of the model, without regard to case
     * @param release of the firmware it was seen with
     * @param by who says so; empty for the house itself
     */
    @JsonInclude(JsonInclude.Include.NON_ABSENT)
    public record Entry(
            Kind kind,
            String name,
            String profile,
            boolean works,
            Optional<LocalDate> release,
            LocalDate date,
            String note,
            String by) {
        private boolean sameAs(Entry other) {
            return kind == other.kind
                    && name.equalsIgnoreCase(other.name)
                    && profile.equals(other.profile)
                    && by.equals(other.by);
        }

        public boolean own() {
            return by.isEmpty();
        }

        /** The same as said by somebody, where nobody is named yet. */
        public Entry saidBy(String somebody) {
            return by.isBlank() ? new Entry(kind, name, profile, works, release, date, note, somebody) : this;
        }
    }

    /** The form of the file. */
    private record Listing(String format, String by, List<Entry> entries) {}

    /** Who signed a file that was read. */
    public enum Signed implements Coded {
        GOOD,
        NONE,
        BAD
    }

    /** A file from somebody: what it says, of whom, and whether it is as they signed it. */
    public record Received(String by, List<Entry> entries, Signed signed, Optional<String> key) {}

    public Works {
        entries = List.copyOf(entries);
    }

    /** With one more; what the same people said of the same thing before is replaced, unless that is newer. */
    public Works with(Entry entry) {
        List<Entry> all = new ArrayList<>();
        boolean newer = true;
        for (Entry each : entries) {
            if (!each.sameAs(entry)) {
                all.add(each);
            } else if (each.date().isAfter(entry.date())) {
                all.add(each);
                newer = false;
            }
        }
        if (newer) {
            all.add(entry);
        }
        return new Works(all);
    }

    public Works with(List<Entry> more) {
        Works all = this;
        for (Entry each : more) {
            all = all.with(each);
        }
        return all;
    }

    /** What is said of a thing with a family: the house's own word last, since it counts most. */
    public List<Entry> of(Kind kind, String name, String profile) {
        return entries.stream()
                .filter(each -> each.kind() == kind
                        && each.profile().equals(profile)
                        && each.name().equalsIgnoreCase(name))
                .sorted((one, other) ->
                        one.own() == other.own() ? one.date().compareTo(other.date()) : one.own() ? 1 : -1)
                .toList();
    }

    /** The things of a kind that something is said of with a family, each once. */
    public List<String> names(Kind kind, String profile) {
        Map<String, String> names = new LinkedHashMap<>();
        entries.stream()
                .filter(each -> each.kind() == kind && each.profile().equals(profile))
                .forEach(each -> names.putIfAbsent(each.name().toLowerCase(Locale.ROOT), each.name()));
        return List.copyOf(names.values());
    }

    /** As a text to hand on: the house's own entries, or all of them, under its name and signed with its key. */
    public String signedText(ProfileReader reader, String name, KeyPair key) {
        List<Entry> named = entries.stream().map(each -> each.saidBy(name)).toList();
        String body = reader.writeForPeople(new Listing(FORMAT, name, named)).stripTrailing()
                + KEY
                + Base64.getEncoder().encodeToString(key.getPublic().getEncoded());
        byte[] signature = Signatures.sign(body.getBytes(StandardCharsets.UTF_8), key.getPrivate());
        return body + SIGNATURE + Base64.getEncoder().encodeToString(signature) + "\n";
    }

    /** As it is kept in the workspace. */
    public String kept(ProfileReader reader) {
        return reader.writeForPeople(new Listing(FORMAT, "", entries));
    }

    /**
     * One that was kept, or that somebody handed on.
     *
     * @throws UnreadableInput when it is no such file
     */
    public static Received read(String file, byte[] content, ProfileReader reader) throws java.io.IOException {
        Listing listing = reader.user(file, content, SCHEMA, Listing.class);
        if (!listing.format().equals(FORMAT)) {
            throw new UnreadableInput(
                    file + " is of the format \"" + listing.format() + "\"; known here is " + FORMAT + ".");
        }
        String text = new String(content, StandardCharsets.UTF_8);
        int at = text.lastIndexOf(SIGNATURE);
        Optional<String> key = line(text, KEY);
        Signed signed = Signed.NONE;
        if (at >= 0 || key.isPresent()) {
            signed = at >= 0
                            && key.isPresent()
                            && holds(
                                    text.substring(0, at), line(text, SIGNATURE).orElse(""), key.get())
                    ? Signed.GOOD
                    : Signed.BAD;
        }
        return new Received(listing.by(), listing.entries(), signed, key);
    }

    private static Optional<String> line(String text, String mark) {
        int at = text.lastIndexOf(mark);
        return at < 0
                ? Optional.empty()
                : text.substring(at + mark.length()).lines().findFirst().map(String::strip);
    }

    private static boolean holds(String body, String signature, String key) {
        try {
            PublicKey by = Signatures.publicKey(Base64.getDecoder().decode(key));
            return Signatures.isBy(
                    body.getBytes(StandardCharsets.UTF_8), Base64.getDecoder().decode(signature), by);
        } catch (GeneralSecurityException | IllegalArgumentException e) {
            return false;
        }
    }

    /** How many say that something works and how many that it does not, by name. */
    public static Map<String, Integer> counted(List<Entry> said) {
        Map<String, Integer> counted = new LinkedHashMap<>();
        said.forEach(each -> counted.merge(each.works() ? "works" : "fails", 1, Integer::sum));
        return counted;
    }

    /** As a line of a list. */
    public static String line(Entry each) {
        return String.format(
                        Locale.ROOT,
                        "%s  %s  %s  %s  %s%s",
                        each.date(),
                        each.kind().code(),
                        each.name(),
                        each.profile(),
                        each.works() ? "works" : "fails",
                        each.release().map(day -> " with " + day).orElse(""))
                + (each.note().isEmpty() ? "" : "  " + each.note())
                + (each.own() ? "" : "  (says " + each.by() + ")");
    }
}
