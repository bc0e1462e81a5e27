// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.firststart.kernelline.IpWord;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.rehearsal.contents.CloudFacts;
import exordium.core.rehearsal.contents.MediumContents;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;

/**
 * Whether a board is reached over the network after its first start, how to find it there, and what its first start needs.
 *
 * @param reachable remote login with no monitor, by the rehearsal
 * @param login whether remote login is on
 * @param account whether anybody gets in, and user: the name to log in with, where it is known
 * @param address IPv4, where one is set on the medium
 * @param hostName as it is announced, where it is known
 * @param mac what to look for in the router
 * @param fingerprints of the host keys on the medium, as the first connection shows them; none where the first start makes them
 * @param growth whether the system fills the medium
 */
public record Reach(
        boolean reachable,
        String why,
        boolean login,
        boolean account,
        Optional<String> user,
        Optional<String> address,
        Optional<String> hostName,
        String mac,
        List<String> fingerprints,
        SelfGrowth growth) {
    private static final String HOST_KEY = "/etc/ssh/ssh_host_";

    /** Where trace: the rehearsal of the very board, with what is plugged into it. */
    public static Reach of(
            FirstStartFiles found, MediumContents contents, BoardProfile profile, String mac, Trace trace) {
        MediumFiles files = found.files();
        boolean login = contents.start()
                        .filter(MediumContents.StartPartition::remoteLogin)
                        .isPresent()
                || contents.roots().values().stream().anyMatch(MediumContents.RootFiles::remoteLogin);
        boolean account = contents.start()
                        .filter(MediumContents.StartPartition::makesAccount)
                        .isPresent()
                || contents.roots().values().stream()
                        .anyMatch(root -> root.account()
                                || contents.start()
                                        .filter(start -> start.makesKeyed(root))
                                        .isPresent());
        Optional<String> address = fixedAddress(contents, profile).or(() -> CloudFacts.address(files));
        return new Reach(
                trace.reachable(),
                why(trace, login, account),
                login,
                account,
                user(files, profile),
                address,
                hostName(files),
                mac,
                fingerprints(files),
                found.growth());
    }

    /** The address a medium's kernel line fixes. */
    public static Optional<String> fixedAddress(MediumContents contents, BoardProfile profile) {
        return contents.start()
                .flatMap(MediumContents.StartPartition::kernelLine)
                .flatMap(bytes -> KernelLine.in(
                        new String(bytes, StandardCharsets.UTF_8),
                        profile.startFiles().kernelLineForm()))
                .flatMap(line -> line.value("ip"))
                .map(word -> IpWord.parse(word.strip()).client())
                .filter(client -> IpWord.number(client).isPresent());
    }

    private static String why(Trace trace, boolean login, boolean account) {
        if (trace.reachable()) {
            return "It starts, remote login is on, somebody gets in, and it comes by an address.";
        }
        if (trace.outcome() != Trace.Outcome.RUNNING) {
            return "It does not start: " + last(trace);
        }
        if (!login) {
            return "It starts, but remote login is off.";
        }
        return account
                ? "It starts, but comes by no address."
                : "It starts, but nobody can log in: there is no account.";
    }

    private static String last(Trace trace) {
        String words = trace.steps().get(trace.steps().size() - 1).text();
        return Character.toLowerCase(words.charAt(0)) + words.substring(1);
    }

    private static Optional<String> user(MediumFiles files, BoardProfile profile) {
        Optional<String> made = profile.startFiles()
                .userFile()
                .flatMap(files::body)
                .map(FileBody::text)
                .filter(text -> text.contains(":"))
                .map(text -> text.substring(0, text.indexOf(':')).strip());
        return made.or(() -> CloudFacts.user(files))
                .or(() -> files.body("/etc/passwd").map(FileBody::text).flatMap(text -> text.lines()
                        .map(line -> line.split(":"))
                        .filter(fields -> fields.length > 2 && fields[2].matches("1\\d{3}"))
                        .map(fields -> fields[0])
                        .findFirst()));
    }

    private static Optional<String> hostName(MediumFiles files) {
        return CloudFacts.hostName(files).or(() -> files.body("/etc/hostname")
                .map(body -> body.text().strip())
                .filter(text -> !text.isEmpty()));
    }

    /** ssh-keygen(1): SHA-256 of the encoded key, in Base64 without its end. */
    private static List<String> fingerprints(MediumFiles files) {
        List<String> prints = new ArrayList<>();
        files.in("/etc/ssh/")
                .filter(path -> path.startsWith(HOST_KEY) && path.endsWith(".pub"))
                .forEach(path -> files.body(path).flatMap(Reach::fingerprint).ifPresent(prints::add));
        return List.copyOf(prints);
    }

    private static Optional<String> fingerprint(FileBody body) {
        String[] words = body.text().strip().split("\\s+");
        if (words.length < 2) {
            return Optional.empty();
        }
        try {
            byte[] sum = MessageDigest.getInstance("SHA-256")
                    .digest(Base64.getDecoder().decode(words[1]));
            return Optional.of(
                    words[0] + " SHA256:" + Base64.getEncoder().withoutPadding().encodeToString(sum));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** How to find it: by its address, by its name, else by its hardware address in the router. */
    public String findBy() {
        if (address.isPresent()) {
            return "At its address " + address.get() + ".";
        }
        String router = mac.isEmpty()
                ? "in the router's list, by the hardware address on its start screen"
                : "in the router's list, by its hardware address " + mac;
        return hostName.map(name -> "By its name, " + name + ".local where names are announced, else " + router + ".")
                .orElse(Character.toUpperCase(router.charAt(0)) + router.substring(1) + ".");
    }

    /** The line to type; empty where nobody gets in. */
    public Optional<String> connect() {
        String where = address.or(() -> hostName.map(name -> name + ".local")).orElse("ADDRESS");
        return login && account ? Optional.of("ssh " + user.orElse("NAME") + "@" + where) : Optional.empty();
    }

    /** What is to be expected of the key at the first connection. */
    public String hostKey() {
        String old = hostName.or(() -> address)
                .map(name -> " If this machine knew an older one: ssh-keygen -R " + name + ".")
                .orElse(" If this machine knew an older one, have it forgotten with ssh-keygen -R.");
        return fingerprints.isEmpty()
                ? "Its first start makes its host keys; nobody can know them before." + old
                : "The first connection shows one of these; anything else is another machine." + old;
    }

    /** What the first start needs. Common practice, no source. */
    public List<String> needs() {
        List<String> needs = new ArrayList<>(List.of(
                "3 to 5 minutes: do not switch it off meanwhile.",
                "A network cable, also where Wi-Fi is set: it is the safe choice."));
        needs.add(growth.finding().text());
        return needs;
    }
}
