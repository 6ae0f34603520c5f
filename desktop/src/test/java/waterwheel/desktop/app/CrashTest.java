package waterwheel.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import waterwheel.core.session.Bus;
import waterwheel.core.session.ChannelId;
import waterwheel.core.session.Output;
import waterwheel.core.session.PanLaw;
import waterwheel.core.session.Session;
import waterwheel.core.session.Strip;
import waterwheel.core.store.SessionFolder;
import waterwheel.core.store.UnsavedWork;

/**
 * The real application, killed while somebody works in it, at moments of chance: the session opens again, and what is
 * gone is what was done in the last five seconds at most. How often is the property {@code waterwheel.kills}.
 */
@Execution(ExecutionMode.CONCURRENT)
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
@Tag("process") // started from the class path
class CrashTest {
    private static final int KILLS = Integer.getInteger("waterwheel.kills", 100);
    /** So many applications work at once; most of the time they only wait. */
    private static final int AT_ONCE = 4;

    private static final long LOST_MILLIS = 5_000;

    @TempDir
    Path folder;

    private String classPath = "";

    /** A class path without folders, because classes in folders are looked up anew at every start. */
    private String inJars(String path) throws IOException {
        List<String> entries = new ArrayList<>();
        for (String entry : path.split(File.pathSeparator, -1)) {
            Path place = Path.of(entry);
            if (!Files.isDirectory(place)) {
                entries.add(entry);
                continue;
            }
            Path jar = folder.resolve(entries.size() + ".jar");
            try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(jar));
                    Stream<Path> files = Files.walk(place)) {
                for (Path file : files.filter(Files::isRegularFile).toList()) {
                    out.putNextEntry(
                            new ZipEntry(place.relativize(file).toString().replace(File.separatorChar, '/')));
                    Files.copy(file, out);
                }
            }
            entries.add(jar.toString());
        }
        return String.join(File.pathSeparator, entries);
    }

    @Test
    void whenever_it_is_killed_at_most_five_seconds_of_work_are_gone() throws Exception {
        classPath = inJars(System.getProperty("java.class.path"));
        Path archive = folder.resolve("classes.jsa");
        Process first = start(
                "-XX:ArchiveClassesAtExit=" + archive,
                emptySong(folder.resolve("first")),
                folder.resolve("first diary"),
                1,
                20);
        assertThat(first.waitFor(120, TimeUnit.SECONDS)).isTrue();
        assertThat(archive).exists();
        List<Callable<Void>> workers = new ArrayList<>();
        for (int w = 0; w < AT_ONCE; w++) {
            int worker = w;
            workers.add(() -> {
                Path home = Files.createDirectory(folder.resolve("worker" + worker));
                SplittableRandom random = new SplittableRandom(worker);
                for (int round = worker; round < KILLS; round += AT_ONCE) {
                    killOnce(home, random, round, archive);
                }
                return null;
            });
        }
        try (ExecutorService threads = Executors.newFixedThreadPool(AT_ONCE)) {
            for (Future<Void> done : threads.invokeAll(workers)) {
                done.get();
            }
        }
    }

    private static Path emptySong(Path song) throws Exception {
        ChannelId main = new ChannelId("main");
        Session empty = new Session(
                "Song",
                48_000,
                PanLaw.MINUS_3,
                -18,
                List.of(),
                List.of(new Bus(main, "Main", Strip.unity(new Output.Nowhere()))),
                main,
                List.of());
        SessionFolder.save(empty, song);
        return song;
    }

    /** Starts an application; what classes it needs is looked up once for all of them, which is most of a start. */
    private Process start(String archive, Path song, Path diary, int chance, int steps) throws Exception {
        return new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        archive,
                        "-Xlog:cds=off",
                        "-Xlog:cds+dynamic=off",
                        "-Dglass.platform=Headless",
                        "-Dprism.order=sw",
                        "-Djavafx.animation.pulse=5",
                        "-Djava.awt.headless=true",
                        "--enable-native-access=ALL-UNNAMED",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-Xmx256m",
                        "-cp",
                        classPath,
                        WorkingApplication.Start.class.getName(),
                        song.toString(),
                        diary.toString(),
                        "" + chance,
                        "" + steps)
                .redirectErrorStream(true)
                .redirectOutput(song.resolveSibling("printed").toFile())
                .start();
    }

    private void killOnce(Path home, SplittableRandom random, int round, Path archive) throws Exception {
        Path song = emptySong(home.resolve("song" + round));
        Path diary = home.resolve("diary" + round);
        Process application = start("-XX:SharedArchiveFile=" + archive, song, diary, round, Integer.MAX_VALUE);
        long patience = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
        while (!Files.exists(diary) && application.isAlive() && System.nanoTime() < patience) {
            Thread.sleep(5);
        }
        assertThat(diary).as(Files.readString(home.resolve("printed"))).exists();
        // Some are killed at once, most after the changes have been kept once or more.
        Thread.sleep(random.nextInt(random.nextInt(4) == 0 ? 500 : 6_000));
        long killedAt = System.currentTimeMillis();
        application.destroyForcibly().waitFor();
        Session saved = SessionFolder.load(song).session();
        Session left =
                UnsavedWork.find(song, saved).map(UnsavedWork.Found::session).orElse(saved);
        long count = Math.round(left.main().strip().trimDb() / WorkingApplication.STEP_DB);
        for (String line : Files.readAllLines(diary)) {
            String[] words = line.split(" ", -1);
            if (words.length == 3 && Long.parseLong(words[1]) > count) {
                assertThat(words[0])
                        .as("%s, but %d is what is left", line, count)
                        .isEqualTo("did");
                assertThat(Long.parseLong(words[2]))
                        .as("%s, killed at %d, but %d is what is left", line, killedAt, count)
                        .isGreaterThan(killedAt - LOST_MILLIS);
            }
        }
    }
}
