// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import com.sun.jna.ptr.IntByReference;
import com.sun.jna.ptr.PointerByReference;
import java.io.Closeable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.ToIntFunction;

/**
 * The system's message bus, or the one of the user's session, by the library that comes with every Debian (sd-bus(3) of libsystemd). Used by one thread.
 */
final class MessageBus implements Closeable {
    private static final int ERROR_BYTES = 24;
    private static final long AT_ONCE = TimeUnit.SECONDS.toMicros(10);
    /** Somebody may have to look for a password. */
    private static final long ANSWERED_BY_A_PERSON = TimeUnit.MINUTES.toMicros(10);

    private final Pointer bus;

    private MessageBus(Pointer bus) {
        this.bus = bus;
    }

    /** The bus said no. */
    static final class BusError extends IOException {
        private static final long serialVersionUID = 1L;
        private final String name;

        BusError(String name, String message) {
            super(message);
            this.name = name;
        }

        /** By which it is known, such as {@code org.freedesktop.DBus.Error.ServiceUnknown}. */
        String name() {
            return name;
        }
    }

    private static final class Library {
        static final boolean THERE = load();

        private static boolean load() {
            try {
                Native.register(Library.class, "libsystemd.so.0");
                return Native.POINTER_SIZE == Long.BYTES;
            } catch (LinkageError | IllegalArgumentException e) {
                return false;
            }
        }

        static native int sd_bus_open_system(PointerByReference bus);

        static native int sd_bus_open_user(PointerByReference bus);

        static native Pointer sd_bus_flush_close_unref(Pointer bus);

        static native int sd_bus_message_new_method_call(
                Pointer bus, PointerByReference message, String to, String path, String type, String method);

        static native int sd_bus_message_append_basic(Pointer message, byte type, Pointer value);

        static native int sd_bus_message_open_container(Pointer message, byte type, String contents);

        static native int sd_bus_message_close_container(Pointer message);

        static native int sd_bus_message_enter_container(Pointer message, byte type, String contents);

        static native int sd_bus_message_read_basic(Pointer message, byte type, Pointer value);

        static native int sd_bus_call(
                Pointer bus, Pointer message, long microseconds, Pointer error, PointerByReference reply);

        static native Pointer sd_bus_message_unref(Pointer message);

        static native void sd_bus_error_free(Pointer error);
    }

    /**
     * Connects.
     *
     * @throws IOException where there is no bus, or no library to speak to it
     */
    static MessageBus open() throws IOException {
        return connected(Library::sd_bus_open_system);
    }

    /** The bus of the user's session, with the same ending. */
    static MessageBus ofSession() throws IOException {
        return connected(Library::sd_bus_open_user);
    }

    private static MessageBus connected(ToIntFunction<PointerByReference> connect) throws IOException {
        if (!Library.THERE) {
            throw new IOException("this system has no library for its message bus");
        }
        PointerByReference bus = new PointerByReference();
        require(connect.applyAsInt(bus));
        return new MessageBus(bus.getValue());
    }

    /**
     * Calls Notify of the Desktop Notifications Specification (signature susssasa{sv}i): no icon, no actions, no hints, and as long
     * on the screen as the service likes.
     *
     * @throws BusError when there is no such service
     */
    void notify(String service, String path, String program, String title, String words) throws IOException {
        Pointer call = message(service, path, service, "Notify");
        append(call, program);
        append(call, (byte) 'u', 0);
        append(call, "");
        append(call, title);
        append(call, words);
        for (String empty : List.of("s", "{sv}")) {
            require(Library.sd_bus_message_open_container(call, (byte) 'a', empty));
            require(Library.sd_bus_message_close_container(call));
        }
        append(call, (byte) 'i', -1);
        Library.sd_bus_message_unref(called(call, AT_ONCE));
    }

    private static void append(Pointer message, byte type, int value) throws IOException {
        try (Memory number = new Memory(Integer.BYTES)) {
            number.setInt(0, value);
            require(Library.sd_bus_message_append_basic(message, type, number));
        }
    }

    private static int require(int result) throws IOException {
        if (result < 0) {
            throw new IOException("the message bus does not answer (error " + -result + ")");
        }
        return result;
    }

    /** Whether a service of that name runs, or would be started when it is asked. */
    boolean knows(String service) throws IOException {
        return lists("ListNames", service) || lists("ListActivatableNames", service);
    }

    private boolean lists(String method, String name) throws IOException {
        Pointer call = message("org.freedesktop.DBus", "/org/freedesktop/DBus", "org.freedesktop.DBus", method);
        Pointer reply = called(call, AT_ONCE);
        try (Memory value = new Memory(Long.BYTES)) {
            require(Library.sd_bus_message_enter_container(reply, (byte) 'a', "s"));
            boolean found = false;
            while (!found && require(Library.sd_bus_message_read_basic(reply, (byte) 's', value)) > 0) {
                found = name.equals(text(value.getPointer(0)));
            }
            return found;
        } finally {
            Library.sd_bus_message_unref(reply);
        }
    }

    /** What is done with a descriptor while it is open. */
    interface Handed<T> {
        T over(int descriptor) throws IOException;
    }

    /**
     * Calls a method that takes a word and options, and answers with a descriptor; waits as long as a person may need to agree.
     *
     * @param handed gets the descriptor, which is closed when it returns
     * @throws BusError when the service says no
     */
    <T> T descriptor(
            String service,
            String path,
            String type,
            String method,
            String word,
            Map<String, Integer> options,
            Handed<T> handed)
            throws IOException {
        Pointer call = message(service, path, type, method);
        append(call, word);
        require(Library.sd_bus_message_open_container(call, (byte) 'a', "{sv}"));
        for (Map.Entry<String, Integer> option : options.entrySet()) {
            require(Library.sd_bus_message_open_container(call, (byte) 'e', "sv"));
            append(call, option.getKey());
            require(Library.sd_bus_message_open_container(call, (byte) 'v', "i"));
            try (Memory number = new Memory(Integer.BYTES)) {
                number.setInt(0, option.getValue());
                require(Library.sd_bus_message_append_basic(call, (byte) 'i', number));
            }
            require(Library.sd_bus_message_close_container(call));
            require(Library.sd_bus_message_close_container(call));
        }
        require(Library.sd_bus_message_close_container(call));
        Pointer reply = called(call, ANSWERED_BY_A_PERSON);
        try {
            IntByReference descriptor = new IntByReference();
            require(Library.sd_bus_message_read_basic(reply, (byte) 'h', descriptor.getPointer()));
            return handed.over(descriptor.getValue());
        } finally {
            Library.sd_bus_message_unref(reply);
        }
    }

    private Pointer message(String service, String path, String type, String method) throws IOException {
        PointerByReference message = new PointerByReference();
        require(Library.sd_bus_message_new_method_call(bus, message, service, path, type, method));
        return message.getValue();
    }

    private static void append(Pointer message, String word) throws IOException {
        byte[] bytes = word.getBytes(StandardCharsets.UTF_8);
        try (Memory text = new Memory(bytes.length + 1L)) {
            text.write(0, bytes, 0, bytes.length);
            text.setByte(bytes.length, (byte) 0);
            require(Library.sd_bus_message_append_basic(message, (byte) 's', text));
        }
    }

    private Pointer called(Pointer call, long microseconds) throws IOException {
        PointerByReference reply = new PointerByReference();
        try (Memory error = new Memory(ERROR_BYTES)) {
            error.clear();
            int result = Library.sd_bus_call(bus, call, microseconds, error, reply);
            if (result < 0) {
                String name = text(error.getPointer(0));
                String message = text(error.getPointer(Long.BYTES));
                Library.sd_bus_error_free(error);
                throw new BusError(name, message.isEmpty() ? "it said no (error " + -result + ")" : message);
            }
            return reply.getValue();
        } finally {
            Library.sd_bus_message_unref(call);
        }
    }

    private static String text(Pointer at) {
        return at == null ? "" : at.getString(0, StandardCharsets.UTF_8.name());
    }

    @Override
    public void close() {
        Library.sd_bus_flush_close_unref(bus);
    }
}
