// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.firststart.intents.PasswordHash;
import exordium.core.layout.DiskIdentifier;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/**
 * Any sequence of intents applied, changed, applied again and taken back leaves files that lint clean, nothing doubled, and no
 * trace once it is taken back.
 */
class IntentsPropertyTest {
    private static final BoardProfiles PROFILES = BoardProfiles.shipped();
    private static final String HASH = PasswordHash.with("long words", "abcdefgh");
    private static final String KEY =
            "ssh-ed25519 AAAAC3NzaC1lZDI1NTE5AAAAIK0wmN/Cr3JXqmLW7u+g9pTh+wyqDHpSQEIQczXkVx9q keeper";
    /** What is wanted on purpose, and deserves what is said of it. */
    private static final Set<String> DESERVED = Set.of("clock-raised-without-cooling", "pcie-3-unrated");

    static FirstStartFiles medium(boolean cloud) {
        Map<String, FileBody> files = new TreeMap<>();
        files.put("config.txt", FileBody.of("# settings\nenable_uart=1\n\n[plover-5]\ngpu_mem=32\n"));
        files.put("cmdline.txt", FileBody.of("console=tty1 root=PARTUUID=5eed0001-02 rootwait\n"));
        files.put(
                "extlinux/extlinux.conf",
                FileBody.of("label a\n  kernel /k\n  append console=tty1 root=PARTUUID=5eed0001-02 rootwait\n"));
        files.put(
                "loader/entries/dunlin.conf",
                FileBody.of("title a\nlinux /k\noptions console=tty1 root=PARTUUID=5eed0001-02 rootwait\n"));
        if (cloud) {
            files.put("user-data", FileBody.of("#cloud-config\npackages:\n  - tmux\n"));
        }
        files.put("/etc/hostname", FileBody.of("marsh\n"));
        files.put("/etc/hosts", FileBody.of("127.0.0.1\tlocalhost\n127.0.1.1\tmarsh\n"));
        files.put(
                "/etc/fstab",
                FileBody.of(
                        "PARTUUID=5eed0001-02 / ext4 defaults 0 1\nPARTUUID=5eed0001-01  /boot/firmware  vfat  defaults  0  2\n"));
        files.put("/etc/machine-id", FileBody.of("0123456789abcdef0123456789abcdef\n"));
        files.put("/etc/localtime", FileBody.linkTo("/usr/share/zoneinfo/Etc/UTC"));
        files.put("/etc/timezone", FileBody.of("Etc/UTC\n"));
        files.put("/etc/default/keyboard", FileBody.of("XKBMODEL=\"pc105\"\nXKBLAYOUT=\"gb\"\n"));
        files.put("/etc/ssh/sshd_config", FileBody.of("Include /etc/ssh/sshd_config.d/*.conf\n"));
        files.put("/etc/ssh/ssh_host_ed25519_key", FileBody.secret("secret\n"));
        files.put("/etc/ssh/ssh_host_ed25519_key.pub", FileBody.of(KEY + "\n"));
        files.put("/etc/NetworkManager/NetworkManager.conf", FileBody.of("[main]\n"));
        Set<String> names = new java.util.TreeSet<>(files.keySet());
        names.addAll(List.of(
                "/usr/lib/systemd/systemd-growfs",
                "/usr/bin/apt-get",
                "/usr/sbin/sshd",
                "/usr/lib/systemd/system/marsh-vnc.service"));
        return new FirstStartFiles(
                new MediumFiles(files, names, "cmdline.txt", Optional.empty()),
                Optional.of("5eed0001-02"),
                List.of("5eed0001-01", "5eed0001-02"),
                Optional.of("5eed0001"),
                Optional.of(
                        new FirstStartFiles.Last(FileSystemKind.EXT4, ByteSize.of(64 << 20), ByteSize.of(64 << 20))));
    }

    private static BoardProfile profile(String id) {
        try {
            return PROFILES.require(id);
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private static Map<String, Object> network(int kind) {
        return switch (kind) {
            case 0 -> Map.of("kind", "automatic");
            case 1 ->
                Map.of(
                        "kind",
                        "fixed",
                        "address",
                        "192.168.4.20/24",
                        "gateway",
                        "192.168.4.1",
                        "nameServers",
                        List.of("192.168.4.1"));
            case 2 -> Map.of("kind", "straight-cable", "address", "169.254.20.7");
            case 3 -> Map.of("kind", "reserved", "hardwareAddress", "02:00:5e:10:00:07");
            default ->
                Map.of(
                        "kind",
                        "wifi",
                        "wifi",
                        Map.of("name", "Tide pool; \\ 7", "country", "PT", "key", "0f".repeat(32)));
        };
    }

    @Provide
    Arbitrary<Intents> intents() {
        Arbitrary<Map<String, Object>> one = Arbitraries.of(
                        "remoteLogin",
                        "account",
                        "hostName",
                        "keyboard",
                        "timeZone",
                        "network",
                        "remoteScreen",
                        "off",
                        "on",
                        "display",
                        "clock",
                        "pcie",
                        "graphicsMemory",
                        "overlay",
                        "logsInMemory",
                        "updates",
                        "rootByIdentifier",
                        "ownIdentity",
                        "grow")
                .flatMap(name -> value(name).map(value -> Map.of(name, value)));
        return one.list().ofMinSize(1).ofMaxSize(6).map(parts -> {
            Map<String, Object> all = new LinkedHashMap<>();
            parts.forEach(all::putAll);
            return IntentsReader.of(all);
        });
    }

    private static Arbitrary<?> value(String name) {
        List<String> things = SwitchableParts.shipped().things().stream()
                .map(SwitchableParts.Thing::code)
                .toList();
        return switch (name) {
            case "account" ->
                Arbitraries.of(
                        Map.of("name", "keeper", "passwordHash", HASH),
                        Map.of("name", "keeper", "keys", List.of(KEY)),
                        Map.of("name", "other", "passwordHash", HASH, "keys", List.of(KEY)));
            case "hostName" -> Arbitraries.of("tide-clock", "film-loop", "a");
            case "keyboard" -> Arbitraries.of("us", "de", "gb(extd)");
            case "timeZone" -> Arbitraries.of("Europe/Lisbon", "UTC", "America/Argentina/Salta");
            case "network" -> Arbitraries.integers().between(0, 4).map(IntentsPropertyTest::network);
            case "off", "on" -> Arbitraries.of(things).list().uniqueElements().ofMaxSize(4);
            case "display" ->
                Arbitraries.of(
                        Map.of("borders", false), Map.of("borders", true),
                        Map.of("mode", "1920x1080@60", "withoutMonitor", true), Map.of("withoutMonitor", false));
            case "clock" -> Arbitraries.of(Map.of("mhz", 2000), Map.of("mhz", 1800, "overVoltage", 4));
            case "pcie" -> Arbitraries.of(Map.of("on", true), Map.of("on", true, "generation", 3), Map.of("on", false));
            case "graphicsMemory" -> Arbitraries.of(16, 64, 256);
            case "overlay" ->
                Arbitraries.of(Map.of("root", true), Map.of("root", false, "start", true), Map.of("start", false));
            case "updates" -> Arbitraries.of("none", "lists", "all");
            default -> Arbitraries.of(true, false);
        };
    }

    private static FirstStartFiles withLine(FirstStartFiles found, BoardProfile board) {
        return new FirstStartFiles(
                new MediumFiles(
                        found.files().bodies(),
                        found.files().names(),
                        board.startFiles().kernelLine(),
                        found.files().rootFault()),
                found.rootPartUuid(),
                found.partUuids(),
                found.diskId(),
                found.last());
    }

    @Property(tries = 120)
    void filesStayCleanAndNoTraceIsLeft(
            @ForAll("intents") Intents first,
            @ForAll("intents") Intents second,
            @ForAll("intents") Intents third,
            @ForAll boolean cloud) {
        for (String family : List.of("plover-5", "plover-3", "curlew-e", "dunlin-u")) {
            BoardProfile board = profile(family);
            FirstStartFiles now = withLine(medium(cloud), board);
            MediumFiles before = now.files();
            List<FileEdit> done = new ArrayList<>();
            int identity = 1;
            for (Intents wanted : List.of(first, second, first, third)) {
                Optional<DiskIdentifier> id = Optional.of(DiskIdentifier.ofMbr(identity++));
                FirstStartPlan plan = FirstStartPlan.of(wanted, now, board, Surroundings.UNKNOWN, id);
                FirstStartFiles after = plan.after(now);
                assertThat(StartFilesLint.of(after, board).stream()
                                .filter(finding -> !DESERVED.contains(finding.code()))
                                .map(Finding::code))
                        .as(() -> family + " " + wanted + " " + after.files().bodies())
                        .isEmpty();
                // Again: nothing is left to do, but for an identity that is always a new one.
                if (!wanted.ownIdentity()) {
                    assertThat(FirstStartPlan.of(wanted, after, board, Surroundings.UNKNOWN, id)
                                    .edits())
                            .as(wanted::toString)
                            .isEmpty();
                }
                done.addAll(plan.edits());
                now = after;
            }
            MediumFiles files = now.files();
            for (int i = done.size() - 1; i >= 0; i--) {
                files = files.after(List.of(done.get(i).back()));
            }
            assertThat(files.bodies()).isEqualTo(before.bodies());
            assertThat(files.names()).isEqualTo(before.names());
        }
    }

    /** What was said is what stands there, whatever was said before. */
    @Property(tries = 40)
    void theLastWordCounts(@ForAll("intents") Intents before) {
        BoardProfile board = profile("plover-5");
        FirstStartFiles found = medium(false);
        FirstStartFiles set = FirstStartPlan.of(before, found, board).after(found);
        Intents wanted = IntentsReader.of(Map.of(
                "hostName",
                "tide-clock",
                "timeZone",
                "Europe/Lisbon",
                "network",
                network(1),
                "overlay",
                Map.of("start", true)));
        Map<String, String> texts =
                FirstStartPlan.of(wanted, set, board).after(set).files().bodies().entrySet().stream()
                        .collect(Collectors.toMap(
                                Map.Entry::getKey, each -> each.getValue().text()));
        assertThat(texts.get("/etc/hostname")).isEqualTo("tide-clock\n");
        assertThat(texts.get("/etc/hosts")).isEqualTo("127.0.0.1\tlocalhost\n127.0.1.1\ttide-clock\n");
        assertThat(texts.get("/etc/localtime")).endsWith("/usr/share/zoneinfo/Europe/Lisbon");
        assertThat(texts.get("/etc/fstab")).containsOnlyOnce(",ro").contains("/boot/firmware  vfat  defaults,ro  0  2");
        assertThat(texts.get("cmdline.txt"))
                .containsOnlyOnce("ip=")
                .containsSubsequence("ip=192.168.4.20::192.168.4.1:255.255.255.0::eth0:off:192.168.4.1 ", "root=");
    }

    /** cloud-init documentation: "Module reference", "Networking config Version 2" and "NoCloud", as schemas among the tests. */
    @Property(tries = 60)
    void cloudFilesAreOnesTheDocumentationKnows(@ForAll("intents") Intents first, @ForAll("intents") Intents second) {
        BoardProfile board = profile("plover-5");
        FirstStartFiles found = medium(true);
        for (Intents wanted : List.of(first, second)) {
            found = FirstStartPlan.of(wanted, found, board).after(found);
        }
        Map<String, FileBody> bodies = found.files().bodies();
        assertThat(bodies.get("user-data").text()).startsWith("#cloud-config\n");
        assertThat(wrong("user-data", bodies)).isEmpty();
        if (bodies.containsKey("network-config")) {
            assertThat(wrong("network-config", bodies)).isEmpty();
        }
        if (bodies.containsKey("meta-data")) {
            assertThat(yaml(bodies.get("meta-data")).path("instance-id").asText())
                    .isNotEmpty();
        }
    }

    private static Set<ValidationMessage> wrong(String file, Map<String, FileBody> bodies) {
        try (InputStream schema =
                IntentsPropertyTest.class.getResourceAsStream("/exordium/cloud/" + file + ".schema.json")) {
            return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(schema)
                    .validate(yaml(bodies.get(file)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static JsonNode yaml(FileBody body) {
        try {
            return new ObjectMapper(new YAMLFactory()).readTree(body.text());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
