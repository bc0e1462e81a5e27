// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.intents;

import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.HostName;
import exordium.core.firststart.kernelline.IpWord;
import java.nio.ByteBuffer;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Base64;
import java.util.Optional;
import java.util.regex.Pattern;

/** What no medium could take whatever is on it; each refused with the words that are wrong. */
final class IntentsCheck {
    private static final Pattern ACCOUNT = Pattern.compile("[a-z_][a-z0-9_-]{0,31}");
    private static final Pattern HASH =
            Pattern.compile("\\$6\\$(rounds=\\d{4,9}\\$)?[./0-9A-Za-z]{1,16}\\$[./0-9A-Za-z]{86}");
    private static final Pattern KEY = Pattern.compile(
            "(ssh-ed25519|ssh-rsa|ecdsa-sha2-nistp(256|384|521)|sk-ssh-ed25519@openssh\\.com|sk-ecdsa-sha2-nistp256@openssh\\.com)"
                    + " ([A-Za-z0-9+/=]+)( [^\\p{Cntrl}]*)?");
    private static final Pattern KEYBOARD = Pattern.compile("[a-z]{2,8}(\\([a-z0-9_-]{1,20}\\))?");
    private static final Pattern MODE = Pattern.compile("[1-9]\\d{2,4}x[1-9]\\d{2,4}(@[1-9]\\d{1,2})?");
    private static final Pattern HARDWARE = Pattern.compile("([0-9A-Fa-f]{2}:){5}[0-9A-Fa-f]{2}");

    private IntentsCheck() {}

    static void check(Intents intents) throws UnreadableInput {
        require(
                intents.hostName(),
                HostName::valid,
                "is no host name: letters, digits and dashes, at most 63, no dash at either end");
        require(intents.keyboard(), KEYBOARD.asMatchPredicate(), "is no keyboard layout such as us, de or gb(extd)");
        require(intents.timeZone(), IntentsCheck::zone, "is no time zone such as Europe/Lisbon");
        require(
                intents.display().flatMap(Intents.Display::mode),
                MODE.asMatchPredicate(),
                "is no mode such as 1920x1080@60");
        if (intents.account().isPresent()) {
            account(intents.account().get());
        }
        if (intents.wantedNetwork().isPresent()) {
            network(intents.wantedNetwork().get());
        }
    }

    private static boolean zone(String text) {
        return text.equals("UTC")
                || (text.contains("/") && ZoneId.getAvailableZoneIds().contains(text));
    }

    private static void require(Optional<String> text, java.util.function.Predicate<String> good, String fault)
            throws UnreadableInput {
        if (text.isPresent() && !good.test(text.get())) {
            throw wrong(text.get(), fault);
        }
    }

    private static UnreadableInput wrong(String text, String fault) {
        return new UnreadableInput("\"" + text.replaceAll("\\p{Cntrl}", "?") + "\" " + fault + ".");
    }

    private static void account(Intents.Account account) throws UnreadableInput {
        require(
                Optional.of(account.name()),
                ACCOUNT.asMatchPredicate(),
                "is no name for an account: small letters, digits, - and _");
        if (account.name().equals("root")) {
            throw new UnreadableInput("The account for a remote login is not root; take a name of your own.");
        }
        if (account.passwordHash().isPresent()
                && !HASH.matcher(account.passwordHash().get()).matches()) {
            throw new UnreadableInput(
                    "passwordHash is no SHA-512 crypt ($6$salt$...), the only form a password is kept in.");
        }
        for (String key : account.keys()) {
            publicKey(key);
        }
    }

    /** The encoded part repeats the kind in front of it (RFC 4253, section 6.6); a private key is never taken. */
    private static void publicKey(String key) throws UnreadableInput {
        if (key.contains("PRIVATE KEY")) {
            throw new UnreadableInput(
                    "That is a private key: it stays where it is. Give the public one, the file that ends in .pub.");
        }
        var parts = KEY.matcher(key.strip());
        if (!parts.matches()) {
            throw wrong(
                    key.length() > 60 ? key.substring(0, 60) + "…" : key,
                    "is no public key, a line such as ssh-ed25519 AAAA… name");
        }
        try {
            byte[] blob = Base64.getDecoder().decode(parts.group(3));
            byte[] kind = parts.group(1).getBytes(java.nio.charset.StandardCharsets.US_ASCII);
            boolean same = blob.length > kind.length + 4
                    && Arrays.equals(blob, 4, 4 + kind.length, kind, 0, kind.length)
                    && whole(blob);
            if (!same) {
                throw new UnreadableInput(
                        "A public key is cut short or changed: what is encoded in it is no " + parts.group(1) + ".");
            }
        } catch (IllegalArgumentException e) {
            throw new UnreadableInput("A public key is cut short or changed: it is no Base64.", e);
        }
    }

    /** Fields with their lengths in front, to the very end (RFC 4251, section 5). */
    private static boolean whole(byte[] blob) {
        ByteBuffer left = ByteBuffer.wrap(blob);
        int fields = 0;
        while (left.remaining() >= Integer.BYTES) {
            int length = left.getInt();
            if (length < 0 || length > left.remaining()) {
                return false;
            }
            left.position(left.position() + length);
            fields++;
        }
        return !left.hasRemaining() && fields > 1;
    }

    private static void network(Intents.Network network) throws UnreadableInput {
        String fault = "is not an IPv4 address such as 169.254.20.7";
        require(
                network.address(),
                text -> IpWord.number(text.replaceFirst("/([12]?\\d|3[0-2])$", ""))
                        .isPresent(),
                fault);
        require(network.gateway(), text -> IpWord.number(text).isPresent(), fault);
        for (String each : network.nameServers()) {
            require(Optional.of(each), text -> IpWord.number(text).isPresent(), fault);
        }
        require(
                network.hardwareAddress(),
                HARDWARE.asMatchPredicate(),
                "is no hardware address such as 02:00:5e:10:00:07");
        if ((network.kind() == Intents.Way.WIFI) != network.wifi().isPresent()) {
            throw new UnreadableInput("wifi: with name and country goes with the kind wifi, and with no other.");
        }
        if (network.wifi().isPresent()) {
            wifi(network.wifi().get());
        }
    }

    private static void wifi(Intents.Wifi wifi) throws UnreadableInput {
        require(
                Optional.of(wifi.country()),
                text -> text.matches("[A-Z]{2}"),
                "is no country of two letters (ISO 3166), such as PT");
        require(
                wifi.key(),
                text -> text.matches("[0-9a-f]{64}"),
                "is no key of 64 hex digits; give a passPhrase and it is derived");
        boolean name = !wifi.name().isEmpty()
                && wifi.name().getBytes(java.nio.charset.StandardCharsets.UTF_8).length <= 32
                && wifi.name().chars().noneMatch(Character::isISOControl);
        if (!name) {
            throw wrong(wifi.name(), "is no name of a Wi-Fi network: 1 to 32 bytes");
        }
    }
}
