// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

/** The file systems told apart by their signatures. */
public enum FileSystemKind {
    FAT12("fat12"),
    FAT16("fat16"),
    FAT32("fat32"),
    EXFAT("exfat"),
    EXT2("ext2"),
    EXT3("ext3"),
    EXT4("ext4"),
    NTFS("ntfs"),
    BTRFS("btrfs"),
    F2FS("f2fs"),
    SQUASHFS("squashfs"),
    ISO9660("iso9660"),
    SWAP("swap"),
    UNKNOWN("unknown");

    private final String code;

    FileSystemKind(String code) {
        this.code = code;
    }

    public String code() {
        return code;
    }

    public boolean isFat() {
        return this == FAT12 || this == FAT16 || this == FAT32;
    }

    public boolean isExt() {
        return this == EXT2 || this == EXT3 || this == EXT4;
    }
}
