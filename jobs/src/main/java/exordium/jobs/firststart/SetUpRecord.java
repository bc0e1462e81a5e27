// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.NotPossible;
import exordium.core.firststart.dialect.FileEdit;
import java.util.List;
import java.util.Optional;

/**
 * What the logbook keeps of a first start, so that it can be taken back: every file before and after, byte for byte.
 *
 * @param target what was set up, by its key, and medium: the one of the register it was
 * @param table what was changed outside all partitions: the disk's identifier, the length of its last partition
 * @param pages the number under which {@link ChangedPages} has every page of the medium that was changed
 */
@JsonInclude(JsonInclude.Include.NON_ABSENT)
public record SetUpRecord(
        String target, Optional<String> medium, List<Edit> edits, List<Raw> table, Optional<Long> pages) {
    private static final ObjectMapper JSON = new ObjectMapper().registerModule(new Jdk8Module());

    /** One file; bodies in Base64 in the logbook. */
    @JsonInclude(JsonInclude.Include.NON_ABSENT)
    public record Edit(String file, Optional<Body> before, Optional<Body> after) {
        FileEdit back() {
            return new FileEdit(file, /* before= */ after.map(Body::body), /* after= */ before.map(Body::body));
        }
    }

    /** A stretch of the medium, in Base64 in the logbook. */
    public record Raw(long position, byte[] before, byte[] after) {}

    /** A content with its permissions. */
    public record Body(byte[] bytes, int mode, boolean link) {
        static Body of(FileBody body) {
            return new Body(body.bytes(), body.mode(), body.link());
        }

        FileBody body() {
            return new FileBody(bytes, mode, link);
        }
    }

    static SetUpRecord of(String target, Optional<String> medium, List<FileEdit> edits, List<Raw> table, long pages) {
        return new SetUpRecord(
                target,
                medium,
                edits.stream()
                        .map(edit -> new Edit(
                                edit.file(),
                                edit.before().map(Body::of),
                                edit.after().map(Body::of)))
                        .toList(),
                table,
                Optional.of(pages));
    }

    String text() {
        try {
            return JSON.writeValueAsString(this);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** @throws NotPossible when an entry's details are none of these */
    static SetUpRecord parse(String text) throws NotPossible {
        try {
            return JSON.readValue(text, SetUpRecord.class);
        } catch (JsonProcessingException e) {
            throw new NotPossible("What the logbook keeps of this first start cannot be read any more.", e);
        }
    }

    /** What takes it back, last edit first. */
    List<FileEdit> back() {
        List<FileEdit> back =
                new java.util.ArrayList<>(edits.stream().map(Edit::back).toList());
        java.util.Collections.reverse(back);
        return back;
    }

    /** Whether it was this one: by its place in the register, else by its key. */
    boolean isOf(String key, Optional<String> registered) {
        boolean both = registered.isPresent() && medium.isPresent();
        return both ? medium.equals(registered) : target.equals(key);
    }
}
