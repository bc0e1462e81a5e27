// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import de.waldheinz.fs.fat.FatFileSystem;
import de.waldheinz.fs.fat.FatLfnDirectory;
import de.waldheinz.fs.fat.FatLfnDirectoryEntry;
import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.lang.reflect.Field;
import java.lang.reflect.Method;
import java.nio.ByteBuffer;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Hands a slice to the FAT library, which changes it, and turns what broken volumes make it or a reader throw into one typed error. */
final class FatLibrary {
    /** Letters of a name in one entry. */
    private static final int LONG_PIECE = 13;

    private FatLibrary() {}

    interface Work<T> {
        T in(FatFileSystem volume) throws IOException;
    }

    static <T> T changing(BlockDevice slice, Work<T> work) throws IOException {
        return typed(slice, () -> {
            FatFileSystem volume = FatFileSystem.read(new Adapter(slice), false);
            T result = work.in(volume);
            // The library writes its tables before the top folder, whose last change of size they would then miss.
            volume.getRoot().flush();
            volume.close();
            return result;
        });
    }

    /** Something that reads or changes a volume. */
    interface Step<T> {
        T run() throws IOException;
    }

    /** Whatever a broken volume makes it throw becomes one typed error. */
    static <T> T typed(BlockDevice slice, Step<T> step) throws IOException {
        try {
            return step.run();
        } catch (FileSystemException | exordium.core.block.MediumException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new FileSystemException(slice.name() + " is a broken FAT volume: " + e.getMessage(), e);
        }
    }

    /** The entry at a path, or null. */
    static FatLfnDirectoryEntry find(FatFileSystem volume, String path) throws IOException {
        FatLfnDirectory folder = volume.getRoot();
        FatLfnDirectoryEntry entry = null;
        for (String name : path.split("/")) {
            if (name.isEmpty()) {
                continue;
            }
            if (entry != null) {
                if (!entry.isDirectory()) {
                    return null;
                }
                folder = entry.getDirectory();
            }
            entry = folder.getEntry(name);
            if (entry == null) {
                return null;
            }
        }
        return entry;
    }

    /**
     * Tells the library which short names a folder has. It forgets them when it reads a folder, gives a new long name one that is
     * taken, and then loses the file that had it; neither list can be reached but this way.
     */
    static void knowShortNames(FatLfnDirectory folder) throws FileSystemException {
        try {
            Field used = FatLfnDirectory.class.getDeclaredField("usedNames");
            Field index = FatLfnDirectory.class.getDeclaredField("shortNameIndex");
            used.setAccessible(true);
            index.setAccessible(true);
            @SuppressWarnings("unchecked")
            Set<String> names = (Set<String>) used.get(folder);
            for (Object each : ((Map<?, ?>) index.get(folder)).keySet()) {
                Method simple = each.getClass().getDeclaredMethod("asSimpleString");
                simple.setAccessible(true);
                names.add(((String) simple.invoke(each)).toLowerCase(Locale.ROOT));
            }
        } catch (ReflectiveOperationException | RuntimeException e) {
            throw new FileSystemException("The FAT library is another one than this program knows: " + e, e);
        }
    }

    /** How many entries of a folder the library writes for a name: one where it is a short one as it stands, else its pieces as well. */
    static int entries(String name) throws FileSystemException {
        try {
            Class<?> type = Class.forName("de.waldheinz.fs.fat.ShortName");
            Method fits = type.getDeclaredMethod("canConvert", String.class);
            Method of = type.getDeclaredMethod("get", String.class);
            Method simple = type.getDeclaredMethod("asSimpleString");
            fits.setAccessible(true);
            of.setAccessible(true);
            simple.setAccessible(true);
            boolean plain = (boolean) fits.invoke(null, name) && name.equals(simple.invoke(of.invoke(null, name)));
            return plain ? 1 : 1 + (name.length() + LONG_PIECE - 1) / LONG_PIECE;
        } catch (ReflectiveOperationException | RuntimeException e) {
            throw new FileSystemException("The FAT library is another one than this program knows: " + e, e);
        }
    }

    static de.waldheinz.fs.BlockDevice adapted(BlockDevice slice) {
        return new Adapter(slice);
    }

    private record Adapter(BlockDevice slice) implements de.waldheinz.fs.BlockDevice {
        @Override
        public boolean isReadOnly() {
            return false;
        }

        @Override
        public long getSize() {
            return slice.size().bytes();
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            slice.read(position, target);
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            slice.write(position, source);
        }

        @Override
        public void flush() throws IOException {
            slice.flush();
        }

        @Override
        public int getSectorSize() {
            return slice.sectorSize();
        }

        @Override
        public void close() {}

        @Override
        public boolean isClosed() {
            return false;
        }
    }
}
