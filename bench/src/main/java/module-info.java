/** Benchmarks: JMH for the hot loops, and whole-song throughput as one JSON line. */
module waterwheel.bench {
    requires java.management;
    requires jdk.management;
    requires jmh.core;
    requires waterwheel.core;
    requires static jmh.generator.annprocess;
    requires static org.jspecify;

    uses java.util.spi.ToolProvider;
}
