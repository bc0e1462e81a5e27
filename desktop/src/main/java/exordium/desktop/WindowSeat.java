// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import java.io.IOException;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.channels.ServerSocketChannel;
import java.nio.channels.SocketChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Optional;

/**
 * One window a workspace: the first holds a lock in its folder and listens beside it; a second one asks the first to come to the
 * front, and ends.
 */
final class WindowSeat implements AutoCloseable {
    /** What an address of this kind may have (unix(7)), with some to spare. */
    private static final int LONGEST_ADDRESS = 100;

    private final FileChannel channel;
    private final FileLock lock;
    private final Optional<ServerSocketChannel> door;
    private final Path address;

    private WindowSeat(FileChannel channel, FileLock lock, Optional<ServerSocketChannel> door, Path address) {
        this.channel = channel;
        this.lock = lock;
        this.door = door;
        this.address = address;
    }

    /** Takes the seat; empty where another window has it. Where toFront: what is done when a second one is started. */
    static Optional<WindowSeat> take(Path folder, Runnable toFront) throws IOException {
        FileChannel channel =
                FileChannel.open(folder.resolve("window.lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock lock;
        try {
            lock = channel.tryLock();
        } catch (OverlappingFileLockException e) {
            lock = null;
        }
        if (lock == null) {
            channel.close();
            return Optional.empty();
        }
        Path address = address(folder);
        Optional<ServerSocketChannel> door =
                address.toString().length() <= LONGEST_ADDRESS ? listen(address, toFront) : Optional.empty();
        return Optional.of(new WindowSeat(channel, lock, door, address));
    }

    private static Path address(Path folder) {
        return folder.toAbsolutePath().normalize().resolve("window.socket");
    }

    /** Empty where such a thing cannot stand in that folder, as on a card; a second window then only says that there is one. */
    private static Optional<ServerSocketChannel> listen(Path address, Runnable toFront) {
        ServerSocketChannel door;
        try {
            Files.deleteIfExists(address);
            door = ServerSocketChannel.open(StandardProtocolFamily.UNIX);
            door.bind(UnixDomainSocketAddress.of(address));
            Files.setPosixFilePermissions(address, PosixFilePermissions.fromString("rw-------"));
        } catch (IOException | UnsupportedOperationException e) {
            return Optional.empty();
        }
        Thread thread = new Thread(
                () -> {
                    while (door.isOpen()) {
                        try (SocketChannel caller = door.accept()) {
                            toFront.run();
                            caller.write(ByteBuffer.wrap(new byte[] {1}));
                        } catch (IOException e) {
                            // The caller went, or the door was closed: the loop sees which.
                            assert door != null;
                        }
                    }
                },
                "exordium-seat");
        thread.setDaemon(true);
        thread.start();
        return Optional.of(door);
    }

    /** Asks the window that has the seat to come to the front; false where it does not answer. */
    static boolean callToFront(Path folder) {
        Path address = address(folder);
        if (!Files.exists(address) || address.toString().length() > LONGEST_ADDRESS) {
            return false;
        }
        try (SocketChannel caller = SocketChannel.open(UnixDomainSocketAddress.of(address))) {
            return caller.read(ByteBuffer.allocate(1)) == 1;
        } catch (IOException e) {
            return false;
        }
    }

    @Override
    public void close() throws IOException {
        if (door.isPresent()) {
            door.get().close();
            Files.deleteIfExists(address);
        }
        lock.release();
        channel.close();
    }
}
