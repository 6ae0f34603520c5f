package waterwheel.cli;

import java.io.PrintStream;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import waterwheel.core.units.PlainText;
import waterwheel.core.work.Progress;

/** Standard output and error, and progress on a terminal that Ctrl+C stops cleanly. */
final class Console {
    private static PrintStream out = System.out;
    private static PrintStream err = System.err;

    private Console() {}

    static void use(PrintStream standardOut, PrintStream standardErr) {
        out = standardOut;
        err = standardErr;
    }

    static PrintStream out() {
        return out;
    }

    static PrintStream err() {
        return err;
    }

    /** Prints a line for a reader on standard output. Names in it come from files: none of them steers the terminal. */
    static void say(Object line) {
        out.println(PlainText.visible(String.valueOf(line)));
    }

    /** Prints a line for a reader on standard error, likewise. */
    static void tell(Object line) {
        err.println(PlainText.visible(String.valueOf(line)));
    }

    /** Work that may take long. */
    interface Work<T> {
        T run(Progress progress) throws Exception;
    }

    /**
     * Runs work, showing its progress where standard error is a terminal. When the process is told to end, the work is
     * asked to stop and gets a moment to remove what it has not finished.
     */
    static <T> T withProgress(String what, Work<T> work) throws Exception {
        ShownProgress progress = new ShownProgress(what);
        Thread worker = Thread.currentThread();
        Thread hook = new Thread(() -> {
            progress.stopped = true;
            try {
                worker.join(TimeUnit.SECONDS.toMillis(5));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        Runtime.getRuntime().addShutdownHook(hook);
        try {
            return work.run(progress);
        } finally {
            progress.clear();
            try {
                Runtime.getRuntime().removeShutdownHook(hook);
            } catch (IllegalStateException e) {
                // The process is ending already; let it, and end this thread so that it need not wait.
                Thread.currentThread().interrupt();
            }
        }
    }

    private static final class ShownProgress implements Progress {
        private final String what;
        private final boolean terminal = Optional.ofNullable(System.console())
                .map(java.io.Console::isTerminal)
                .orElse(false);
        private int shown = -1;
        private volatile boolean stopped;

        ShownProgress(String what) {
            this.what = what;
        }

        @Override
        public void at(double part) {
            int percent = (int) (part * 100);
            if (terminal && percent != shown) {
                shown = percent;
                err.print("\r" + what + " " + percent + " %");
                err.flush();
            }
        }

        @Override
        public boolean stopped() {
            return stopped;
        }

        private void clear() {
            if (terminal && shown >= 0) {
                err.print("\r" + " ".repeat(what.length() + 8) + "\r");
            }
        }
    }
}
