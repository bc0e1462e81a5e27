// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

/** The containers an image comes in, told by its first bytes, never by its name. */
public enum ContainerKind {
    RAW("raw"),
    XZ("xz"),
    GZIP("gzip"),
    ZSTD("zstd"),
    BZIP2("bzip2"),
    ZIP("zip"),
    SEVEN_Z("7z"),
    /** A copy in a vault: a list of chunks. */
    COPY("copy");

    private final String code;

    ContainerKind(String code) {
        this.code = code;
    }

    public String code() {
        return code;
    }
}
