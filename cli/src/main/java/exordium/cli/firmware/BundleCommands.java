// SPDX-License-Identifier: Apache-2.0
package exordium.cli.firmware;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.TransferWatch;
import exordium.core.board.StartSource;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareBundle;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firmware.PublishedReleases;
import exordium.core.firmware.RecoverySet;
import exordium.jobs.bench.FirmwareShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.ReleaseIntake;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.PublicKey;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code firmware shelf}: releases as files, those written down by hand, and the keys of who signs. */
@Command(
        name = "shelf",
        description = "Releases of the workspace: import and check bundles, write releases down, trust keys.",
        mixinStandardHelpOptions = true)
public final class BundleCommands {
    private record BundleOut(
            String file,
            List<String> boards,
            LocalDate version,
            String channel,
            String notes,
            List<StartSource> enables,
            List<String> mends,
            Optional<LocalDate> needs,
            int payloadBytes,
            String payloadSha256,
            String signed) {
        static BundleOut of(String file, FirmwareBundle bundle, FirmwareBundle.Signed signed) {
            FirmwareBundle.Manifest manifest = bundle.manifest();
            return new BundleOut(
                    file,
                    manifest.boards(),
                    manifest.version(),
                    manifest.channel(),
                    manifest.notes(),
                    manifest.enables().orElse(List.of()),
                    manifest.mends().orElse(List.of()).stream()
                            .map(FirmwareRelease.Mend::what)
                            .toList(),
                    manifest.needs(),
                    manifest.payload().bytes(),
                    manifest.payload().sha256(),
                    code(signed));
        }

        private static String code(FirmwareBundle.Signed signed) {
            return switch (signed) {
                case YES -> "yes";
                case NO -> "no";
                case UNCHECKED -> "unchecked";
                case WRONG -> "wrong";
            };
        }

        String line() {
            return version + "  " + channel + "  " + String.join(", ", boards) + "  " + payloadBytes
                    + " bytes, signed: " + signed + "  " + notes;
        }
    }

    @Command(name = "list", description = "The bundles on the shelf.")
    int list(@Mixin Common common) throws IOException {
        List<String> unreadable = new ArrayList<>();
        List<BundleOut> bundles = common.workbench().firmwareShelf().bundles(unreadable).stream()
                .map(each -> BundleOut.of(String.valueOf(each.file().getFileName()), each.bundle(), each.signed()))
                .toList();
        unreadable.forEach(common::message);
        common.print(bundles, bundles.stream().map(BundleOut::line).toList());
        return ExitCode.DONE;
    }

    @Command(name = "check", description = "Whether a bundle is whole, and who signed it; nothing is taken over.")
    int check(
            @Mixin Common common,
            @Parameters(paramLabel = "BUNDLE.zip") Path file,
            @Option(
                            names = "--key",
                            paramLabel = "KEY.pem",
                            description = "a public key to check it with, beside the shelf's")
                    List<Path> keys)
            throws IOException {
        FirmwareBundle bundle = FirmwareBundle.read(file, common.reader());
        List<PublicKey> trusted =
                new ArrayList<>(common.workbench().firmwareShelf().keys(new ArrayList<>()));
        for (Path each : keys == null ? List.<Path>of() : keys) {
            trusted.add(FirmwareBundle.key(each));
        }
        FirmwareBundle.Signed signed = bundle.signed(trusted);
        BundleOut out = BundleOut.of(String.valueOf(file.getFileName()), bundle, signed);
        common.print(out, List.of(out.line()));
        return signed == FirmwareBundle.Signed.WRONG ? ExitCode.DIFFERENT : ExitCode.DONE;
    }

    private record TakenRelease(
            LocalDate version, String channel, String notes, String published, List<StartSource> enables) {}

    private record TakenFile(String file, RecoverySet.Part part) {}

    private record ProposalOut(LocalDate version, List<StartSource> enables, List<String> mends, String line) {}

    private record TakenOut(
            String profile,
            List<TakenRelease> releases,
            Map<String, String> aliases,
            List<ProposalOut> proposed,
            Optional<LocalDate> recoveryOf,
            List<TakenFile> recovery,
            boolean complete,
            List<Common.FindingOut> findings) {}

    @Command(
            name = "take",
            description =
                    "Take releases as their maker publishes them: a package (.deb), an archive, a folder, or an image with a"
                            + " system that keeps them; with its recovery set.")
    int takePublished(
            @Mixin Common common,
            @Parameters(paramLabel = "PACKAGE|ARCHIVE|FOLDER|IMAGE") Path from,
            @Option(names = "--profile", required = true, paramLabel = "P") String profile,
            @Option(
                            names = "--channel",
                            paramLabel = "NAME=CHANNEL",
                            description = "what a folder of theirs is here: default, latest or beta")
                    Map<String, String> channels,
            @Option(
                            names = "--as-proposed",
                            description = "what the notes seem to say a release enables or mends counts")
                    boolean asProposed,
            @Option(names = "--only-look", description = "nothing is taken over") boolean onlyLook)
            throws IOException {
        Workbench bench = common.workbench();
        ReleaseIntake intake = new ReleaseIntake(bench);
        PublishedReleases.Read read = intake.read(
                from, profile, channels == null ? Map.of() : channels, common.targets(bench), TransferWatch.NONE);
        if (!onlyLook) {
            intake.take(String.valueOf(from.toAbsolutePath().getFileName()), profile, read, asProposed);
        }
        FirmwareCatalogue now = bench.firmware();
        TakenOut out = new TakenOut(
                profile,
                read.releases().stream()
                        .map(each -> new TakenRelease(
                                each.release().version(),
                                each.release().channel().code(),
                                each.release().notes(),
                                each.channelName(),
                                now.find(profile, each.release().version())
                                        .flatMap(FirmwareRelease::enables)
                                        .orElse(List.of())))
                        .toList(),
                read.aliases(),
                read.proposals().stream()
                        .map(each -> new ProposalOut(each.version(), each.enables(), each.mends(), each.line()))
                        .toList(),
                read.recoveryOf(),
                read.recovery().map(RecoverySet::files).orElse(List.of()).stream()
                        .map(each -> new TakenFile(each.file(), each.part()))
                        .toList(),
                read.complete(),
                Common.out(read.findings()));
        List<String> lines = new ArrayList<>();
        out.releases().forEach(each -> lines.add(each.version() + "  " + each.channel() + "  " + each.notes()));
        out.aliases().forEach((alias, of) -> lines.add("\"" + alias + "\" is what else \"" + of + "\" is called."));
        out.recovery().forEach(each -> lines.add(each.part().code() + "  " + each.file()));
        if (!asProposed) {
            out.proposed()
                    .forEach(each -> lines.add("proposed: " + each.version()
                            + (each.enables().isEmpty()
                                    ? ""
                                    : " enables "
                                            + String.join(
                                                    ", ",
                                                    each.enables().stream()
                                                            .map(StartSource::code)
                                                            .toList()))
                            + (each.mends().isEmpty() ? "" : " mends " + String.join(", ", each.mends()))
                            + ", by its notes: " + each.line()));
        }
        lines.addAll(Common.lines(read.findings()));
        common.print(out, lines);
        return ExitCode.DONE;
    }

    @Command(name = "import", description = "Take a bundle onto the shelf.")
    int take(@Mixin Common common, @Parameters(paramLabel = "BUNDLE.zip") Path file) throws IOException {
        FirmwareShelf.Shelved put = new ReleaseIntake(common.workbench()).take(file);
        BundleOut out = BundleOut.of(String.valueOf(put.file().getFileName()), put.bundle(), put.signed());
        common.print(out, List.of("On the shelf: " + out.line()));
        return ExitCode.DONE;
    }

    @Command(name = "trust", description = "Take a public key onto the shelf: bundles it signed count as signed.")
    int trust(@Mixin Common common, @Parameters(paramLabel = "KEY.pem") Path key) throws IOException {
        Path put = common.workbench().firmwareShelf().putKey(key);
        common.print(
                java.util.Map.of("key", String.valueOf(put.getFileName())), List.of("Trusted: " + put.getFileName()));
        return ExitCode.DONE;
    }

    /** What is known of a release. */
    static final class Words {
        @Option(names = "--for", required = true, split = ",", paramLabel = "PROFILE,...")
        private List<String> boards;

        @Option(names = "--version", required = true, paramLabel = "DATE")
        private LocalDate version;

        @Option(names = "--channel", paramLabel = "CHANNEL", defaultValue = "default")
        private String channel;

        @Option(names = "--notes", required = true, paramLabel = "TEXT", description = "what it brings")
        private String notes;

        @Option(
                names = "--enables",
                split = ",",
                paramLabel = "SOURCE,...",
                description = "what starts from this release on")
        private List<String> enables = List.of();

        @Option(names = "--mends", paramLabel = "TEXT", description = "a defect it mends")
        private List<String> mends = List.of();

        @Option(
                names = "--signs",
                split = ",",
                paramLabel = "WORD,...",
                description = "words by which the defects show")
        private List<String> signs = List.of();

        @Option(names = "--needs", paramLabel = "DATE", description = "the release that has to run before")
        private LocalDate needs;

        FirmwareRelease release(Workbench bench) throws UnreadableInput {
            for (String board : boards) {
                bench.profiles().require(board);
            }
            List<StartSource> sources = new ArrayList<>();
            for (String each : enables) {
                sources.add(StartSource.find(each.strip())
                        .orElseThrow(() -> new BadArgument("\"" + each + "\" is no source.", each)));
            }
            return new FirmwareRelease(
                    boards,
                    version,
                    bench.firmware().channel(channel),
                    notes,
                    sources.isEmpty() ? Optional.empty() : Optional.of(sources),
                    mends.isEmpty()
                            ? Optional.empty()
                            : Optional.of(mends.stream()
                                    .map(each -> new FirmwareRelease.Mend(each, signs))
                                    .toList()),
                    Optional.ofNullable(needs));
        }
    }

    @Command(
            name = "add",
            description = "Write down a release of your own board, by date and channel; it needs no bundle.")
    int add(@Mixin Common common, @Mixin Words words) throws IOException {
        Workbench bench = common.workbench();
        FirmwareRelease release = words.release(bench);
        new ReleaseIntake(bench).add(release);
        common.print(
                release, List.of("Written down: " + release.version() + " for " + String.join(", ", release.boards())));
        return ExitCode.DONE;
    }

    @Command(name = "pack", description = "Make a bundle of a payload.")
    int pack(
            @Mixin Common common,
            @Mixin Words words,
            @Option(names = "--payload", required = true, paramLabel = "FILE") Path payload,
            @Parameters(paramLabel = "BUNDLE.zip") Path to)
            throws IOException {
        if (!Files.isRegularFile(payload)
                || Files.size(payload) == 0
                || Files.size(payload) > FirmwareBundle.LARGEST_PAYLOAD) {
            throw new UnreadableInput("A payload is a file of 1 to " + FirmwareBundle.LARGEST_PAYLOAD + " bytes; "
                    + payload + " is none.");
        }
        if (Files.exists(to)) {
            throw new UnreadableInput("There is a file " + to + " already; nothing was changed.");
        }
        FirmwareBundle bundle =
                FirmwareBundle.of(words.release(common.workbench()), Files.readAllBytes(payload), Optional.empty());
        Files.write(to, bundle.bytes());
        BundleOut out = BundleOut.of(to.toString(), bundle, FirmwareBundle.Signed.NO);
        common.print(
                out,
                List.of(
                        "Made: " + out.line(),
                        "To sign it: unzip, openssl pkeyutl -sign -inkey PRIVATE.pem -rawin -in manifest.json -out manifest.sig, zip again."));
        return ExitCode.DONE;
    }
}
