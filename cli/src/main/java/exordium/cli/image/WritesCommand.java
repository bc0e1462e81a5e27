// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code writes}: those that were cut off, and where they stand. */
@Command(name = "writes", description = "List writes that were cut off and can go on, with where they stand.")
public final class WritesCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    private record WritesOut(String image, String target, String mode, long doneBytes, long imageBytes, String text) {}

    @Override
    public Integer call() throws IOException {
        List<WriteJob.Unfinished> unfinished = WriteJob.unfinished(common.workbench());
        common.print(
                unfinished.stream()
                        .map(each -> new WritesOut(
                                each.image().toString(),
                                each.target().toString(),
                                each.mode().code(),
                                each.stand().bytes(),
                                each.stand().head().imageBytes(),
                                each.sentence()))
                        .toList(),
                unfinished.isEmpty()
                        ? List.of("No write was cut off.")
                        : unfinished.stream().map(WriteJob.Unfinished::sentence).toList());
        return ExitCode.DONE;
    }
}
