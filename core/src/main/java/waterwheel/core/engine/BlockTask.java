package waterwheel.core.engine;

/** One piece of a block's work. Runs on any thread of the team, one at a time; allocates nothing. */
interface BlockTask {
    void run(long firstFrame, int frames);

    /** A task that does several, one after the other. */
    static BlockTask all(BlockTask... tasks) {
        return tasks.length == 1
                ? tasks[0]
                : (first, count) -> {
                    for (BlockTask task : tasks) {
                        task.run(first, count);
                    }
                };
    }
}
