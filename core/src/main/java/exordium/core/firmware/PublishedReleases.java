// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.PackageFiles;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;

/**
 * Releases of firmware as their maker publishes them (docs/formats/firmware.md): a folder a channel, names that bear a date, notes beside
 * them, links from one channel to another, and the files of a recovery set. How they are laid out: common practice, no source.
 */
public final class PublishedReleases {
    private static final Pattern DATE = Pattern.compile("(?<!\\d)(20\\d\\d)[-._]?(\\d\\d)[-._]?(\\d\\d)(?!\\d)");
    private static final Pattern NOT_FIRMWARE =
            Pattern.compile(".*\\.(txt|md|html?|sig|sign|asc|sha\\d*|md5|gz|deb|json|ya?ml|conf|cfg|ini)");
    private static final Pattern NAMED_FIRMWARE = Pattern.compile(".*\\.(bin|upd|img|rom|fd|hex|elf|efi)");
    private static final int SMALLEST = 16 << 10;
    private static final Pattern LIKELY_BETA =
            Pattern.compile(".*(beta|test|exper|dev|preview|unstable|nightly|edge).*");
    private static final Pattern LIKELY_DEFAULT =
            Pattern.compile(".*(default|stable|critical|release|proven|main|steady).*");
    private static final int LONGEST_NOTES = 600;

    /**
     * A release, and what a channel is called by whoever publishes it.
     *
     * @param file the image by its path
     */
    public record Published(FirmwareRelease release, String channelName, String file) {}

    /** What the notes say of a release, for its user to take or leave. */
    public record Proposal(LocalDate version, List<StartSource> enables, List<String> mends, String line) {}

    /**
     * All that was read.
     *
     * @param aliases what else a channel is called, by links
     * @param recovery the set of the newest release in the best tried channel that has one; empty where there is none
     * @param sets of every release that has one whole
     */
    public record Read(
            List<Published> releases,
            Map<String, String> aliases,
            List<Proposal> proposals,
            Optional<RecoverySet> recovery,
            Optional<LocalDate> recoveryOf,
            Map<LocalDate, RecoverySet> sets,
            List<Finding> findings) {
        public boolean complete() {
            return recovery.filter(RecoverySet::complete).isPresent() && !Finding.anyStops(findings);
        }
    }

    private final PackageFiles files;
    private final BoardProfile profile;
    private final FirmwareCatalogue known;
    private final Map<String, String> said;
    private final List<Finding> findings = new ArrayList<>();
    private final Map<String, String> aliases = new TreeMap<>();
    private final Set<String> notKnown = new LinkedHashSet<>();

    private PublishedReleases(
            PackageFiles files, BoardProfile profile, FirmwareCatalogue known, Map<String, String> said) {
        this.files = withoutCopies(files);
        this.profile = profile;
        this.known = known;
        this.said = said;
    }

    /** A folder that is a copy of another, as archives without links hold them, is what else that one is called. */
    private PackageFiles withoutCopies(PackageFiles all) {
        Map<String, StringBuilder> held = new TreeMap<>();
        Set<String> channels = new LinkedHashSet<>();
        all.files().forEach((path, content) -> {
            held.computeIfAbsent(parent(path), each -> new StringBuilder())
                    .append(leaf(path))
                    .append(FirmwareBundle.sha256(content));
            if (isRelease(path, content.length)) {
                channels.add(parent(path));
            }
        });
        Map<String, String> first = new LinkedHashMap<>();
        Set<String> copies = new LinkedHashSet<>();
        channels.stream()
                .sorted(Comparator.comparing((String folder) ->
                                !List.of("default", "latest", "beta").contains(leaf(folder)))
                        .thenComparing(Comparator.naturalOrder()))
                .forEach(folder -> {
                    String before = first.putIfAbsent(held.get(folder).toString(), folder);
                    if (before != null) {
                        copies.add(folder);
                        aliases.put(leaf(folder), leaf(before));
                    }
                });
        if (copies.isEmpty()) {
            return all;
        }
        Map<String, byte[]> kept = new TreeMap<>(all.files());
        kept.keySet().removeIf(path -> copies.contains(parent(path)));
        return new PackageFiles(kept, all.links(), all.md5());
    }

    /** Whether a file is the image of a release, by its name. */
    static boolean isRelease(String path, long size) {
        String name = path.substring(path.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
        return date(name).isPresent()
                && !NOT_FIRMWARE.matcher(name).matches()
                && (NAMED_FIRMWARE.matcher(name).matches() || size >= SMALLEST);
    }

    /** Digits may be no day at all. */
    static Optional<LocalDate> day(MatchResult digits) {
        try {
            return Optional.of(LocalDate.of(
                    Integer.parseInt(digits.group(1)),
                    Integer.parseInt(digits.group(2)),
                    Integer.parseInt(digits.group(3))));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    private static Optional<LocalDate> date(String text) {
        return DATE.matcher(text)
                .results()
                .flatMap(found -> day(found).stream())
                .findFirst();
    }

    /**
     * Reads them.
     *
     * @param name of the package, whose own date counts where nothing in it bears one
     * @param said channel of the publisher to one of ours, as its user says it
     * @throws UnreadableInput when a channel that was said is none
     */
    public static Read of(
            String name, PackageFiles files, BoardProfile profile, FirmwareCatalogue known, Map<String, String> said)
            throws UnreadableInput {
        return new PublishedReleases(files, profile, known, said).read(name);
    }

    private Read read(String name) throws UnreadableInput {
        links();
        ReleaseNotes notes = ReleaseNotes.in(files);
        Map<LocalDate, Published> releases = new TreeMap<>();
        for (Map.Entry<String, byte[]> each : files.files().entrySet()) {
            String path = each.getKey();
            Optional<LocalDate> version = version(path, each.getValue().length);
            if (version.isEmpty() || RecoverySet.isProgram(path, profile)) {
                continue;
            }
            String channel = channel(path);
            Published one = new Published(
                    new FirmwareRelease(
                            List.of(profile.id()),
                            version.get(),
                            ours(channel),
                            notes.of(version.get(), LONGEST_NOTES)),
                    channel,
                    path);
            // The same release in two channels is one, in the better tried.
            releases.merge(version.get(), one, PublishedReleases::better);
        }
        Optional<String> place = setFolder(releases.values().stream()
                .filter(each -> hasProgram(parent(each.file())))
                .min(Comparator.comparing((Published each) -> each.release().channel())
                        .thenComparing(each -> each.release().version(), Comparator.reverseOrder()))
                .or(() -> releases.values().stream().reduce((first, last) -> last)));
        Optional<LocalDate> setDate = Optional.empty();
        Optional<RecoverySet> set = Optional.empty();
        if (place.isPresent()) {
            setDate = newestIn(place.get(), releases)
                    .or(notes::newest)
                    .or(() -> date(name))
                    .or(() -> datesIn(place.get()));
            set = Optional.of(set(place.get(), setDate));
            if (releases.isEmpty()
                    && setDate.isPresent()
                    && set.get().piece(RecoverySet.Part.IMAGE).isPresent()) {
                LocalDate version = setDate.get();
                releases.put(
                        version,
                        new Published(
                                new FirmwareRelease(
                                        List.of(profile.id()),
                                        version,
                                        ours(channel(place.get() + "/x")),
                                        notes.of(version, LONGEST_NOTES)),
                                channel(place.get() + "/x"),
                                set.get()
                                        .piece(RecoverySet.Part.IMAGE)
                                        .orElseThrow()
                                        .file()));
            }
            findings.addAll(set.get().findings());
        } else {
            findings.add(Finding.caution(
                            "recovery-set-missing",
                            "No program that writes the chip is among these files, so no recovery card can be made of them.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        }
        if (releases.isEmpty()) {
            findings.add(Finding.caution(
                    "release-without-date",
                    "Nothing in it bears a date, so no release can be told from another: say it, with firmware shelf add.",
                    Basis.practice()));
        }
        sums();
        return new Read(
                List.copyOf(releases.values()),
                Map.copyOf(aliases),
                notes.proposals(releases.keySet()),
                set,
                setDate,
                sets(releases, setDate, set),
                List.copyOf(findings));
    }

    private boolean hasProgram(String folder) {
        return inside(folder).stream().anyMatch(path -> RecoverySet.isProgram(path, profile));
    }

    /** One of each release beside which a program lies. */
    private Map<LocalDate, RecoverySet> sets(
            Map<LocalDate, Published> releases, Optional<LocalDate> date, Optional<RecoverySet> first) {
        Map<LocalDate, RecoverySet> sets = new TreeMap<>();
        if (date.isPresent() && first.filter(RecoverySet::complete).isPresent()) {
            sets.put(date.get(), first.get());
        }
        releases.forEach((version, each) -> {
            RecoverySet set = set(parent(each.file()), Optional.of(version));
            if (hasProgram(parent(each.file())) && set.complete()) {
                sets.put(version, set);
            }
        });
        return sets;
    }

    private Optional<LocalDate> datesIn(String place) {
        return inside(place).stream().flatMap(path -> date(leaf(path)).stream()).max(Comparator.naturalOrder());
    }

    private static Published better(Published one, Published other) {
        return one.release().channel().compareTo(other.release().channel()) <= 0 ? one : other;
    }

    /** By its own name, else by that of the folder it is in. */
    private static Optional<LocalDate> version(String path, long size) {
        String plain = path.toLowerCase(Locale.ROOT);
        if (NOT_FIRMWARE.matcher(plain).matches()) {
            return Optional.empty();
        }
        if (isRelease(path, size)) {
            return date(leaf(path));
        }
        boolean firmware = NAMED_FIRMWARE.matcher(plain).matches();
        return firmware ? date(leaf(parent(path))) : Optional.empty();
    }

    private static String leaf(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    private static String parent(String path) {
        int slash = path.lastIndexOf('/');
        return slash < 0 ? "" : path.substring(0, slash);
    }

    /** A folder a channel; one that is named by a date is within its channel's. */
    private static String channel(String path) {
        String folder = parent(path);
        while (!folder.isEmpty() && date(leaf(folder)).isPresent()) {
            folder = parent(folder);
        }
        return leaf(folder);
    }

    /** Links from one folder to another are what else a channel is called. */
    private void links() {
        Set<String> folders = new LinkedHashSet<>();
        files.files().keySet().forEach(path -> {
            for (String folder = parent(path); !folder.isEmpty(); folder = parent(folder)) {
                folders.add(folder);
            }
        });
        files.links().forEach((path, target) -> {
            String to = target.startsWith("/") ? target.substring(1) : parent(path) + "/" + target;
            List<String> parts = new ArrayList<>();
            for (String part : to.replaceFirst("/+$", "").split("/")) {
                if (part.equals("..") && !parts.isEmpty()) {
                    parts.remove(parts.size() - 1);
                } else if (!part.isEmpty() && !part.equals(".") && !part.equals("..")) {
                    parts.add(part);
                }
            }
            String folder = String.join("/", parts);
            boolean there = folders.contains(folder) || folders.stream().anyMatch(each -> each.endsWith("/" + folder));
            if (there && !leaf(path).equals(leaf(folder))) {
                aliases.put(leaf(path), leaf(folder));
            }
        });
    }

    /** A publisher's channel as one of ours: as it was said, by its name, by what else it is called, or by what it sounds like. */
    private Channel ours(String name) throws UnreadableInput {
        if (said.containsKey(name)) {
            return known.channel(said.get(name));
        }
        List<String> names = new ArrayList<>(List.of(name));
        aliases.forEach((alias, of) -> {
            if (of.equals(name)) {
                names.add(alias);
            }
        });
        for (String each : names) {
            Optional<Channel> found = known.findChannel(each);
            if (found.isPresent()) {
                return found.get();
            }
        }
        String plain = String.join(" ", names).toLowerCase(Locale.ROOT);
        if (LIKELY_BETA.matcher(plain).matches()) {
            return Channel.BETA;
        }
        if (LIKELY_DEFAULT.matcher(plain).matches() || channels().size() <= 1) {
            return Channel.DEFAULT;
        }
        if (notKnown.add(name)) {
            findings.add(Finding.caution(
                    "channel-not-known",
                    "How well tried what lies in \"" + name
                            + "\" is, nothing says; it is taken as latest. Say it otherwise with --channel " + name
                            + "=default.",
                    Basis.practice()));
        }
        return Channel.LATEST;
    }

    private Set<String> channels() {
        Set<String> names = new LinkedHashSet<>();
        files.files().forEach((path, content) -> {
            if (version(path, content.length).isPresent()) {
                names.add(channel(path));
            }
        });
        return names;
    }

    private List<String> inside(String folder) {
        return files.files().keySet().stream()
                .filter(path -> parent(path).equals(folder))
                .toList();
    }

    /** Where the program that writes the chip lies: beside the newest release, else wherever there is one. */
    private Optional<String> setFolder(Optional<Published> newest) {
        List<String> programs = files.files().keySet().stream()
                .filter(path -> RecoverySet.isProgram(path, profile))
                .map(PublishedReleases::parent)
                .distinct()
                .toList();
        Optional<String> beside = newest.map(each -> parent(each.file())).filter(programs::contains);
        if (beside.isPresent()) {
            return beside;
        }
        Optional<String> best = programs.stream().max(Comparator.comparing(this::weight));
        if (best.isPresent() || newest.isPresent()) {
            return best;
        }
        // Nothing bears a usual name: the folder with the largest file holds what there is.
        return files.files().entrySet().stream()
                .filter(each -> !NOT_FIRMWARE
                        .matcher(each.getKey().toLowerCase(Locale.ROOT))
                        .matches())
                .max(Comparator.comparingInt(each -> each.getValue().length))
                .map(each -> parent(each.getKey()));
    }

    private long weight(String folder) {
        return inside(folder).stream()
                .mapToLong(path -> files.files().get(path).length)
                .sum();
    }

    private Optional<LocalDate> newestIn(String folder, Map<LocalDate, Published> releases) {
        return releases.values().stream()
                .filter(each -> parent(each.file()).equals(folder))
                .map(each -> each.release().version())
                .max(Comparator.naturalOrder());
    }

    /** The files of a folder that belong to a release: images and signatures of others do not. */
    private RecoverySet set(String folder, Optional<LocalDate> of) {
        List<RecoverySet.Piece> pieces = new ArrayList<>();
        for (String path : inside(folder)) {
            Optional<LocalDate> own = date(leaf(path));
            boolean other = own.isPresent() && of.isPresent() && !own.equals(of);
            if (!other) {
                pieces.add(new RecoverySet.Piece(
                        leaf(path), RecoverySet.Part.OTHER, files.files().get(path)));
            }
        }
        return RecoverySet.of(pieces, Optional.of(profile));
    }

    /** What the package itself says of its files (deb-md5sums(5)), and lists of digests among them (sha256sum(1)). */
    private void sums() {
        Map<String, String> wrong = new LinkedHashMap<>();
        files.md5().forEach((path, told) -> {
            byte[] content = files.files().get(path);
            if (content != null && !Digests.md5(content).equals(told)) {
                wrong.put(path, "the package's own list");
            }
        });
        files.files().forEach((path, content) -> {
            String name = leaf(path).toLowerCase(Locale.ROOT);
            if (!name.matches(".*(sha256sums?|sha256)(\\.txt)?")) {
                return;
            }
            Digests.listed(content).forEach((file, told) -> {
                byte[] meant = files.files().get(parent(path).isEmpty() ? file : parent(path) + "/" + file);
                if (meant != null && !FirmwareBundle.sha256(meant).equals(told)) {
                    wrong.put(file, leaf(path));
                }
            });
        });
        wrong.forEach((path, list) -> findings.add(Finding.stop(
                        "recovery-digest-differs",
                        leaf(path) + " is not the file that " + list + " was made for.",
                        Basis.computed("the files of the set"))
                .mendAt(Step.FIRMWARE)));
    }
}
