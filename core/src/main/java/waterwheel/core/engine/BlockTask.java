package waterwheel.core.engine;

/** One piece of a block's work. Runs on any thread of the team, one at a time; allocates nothing. */
interface BlockTask {
    void run(long firstFrame, int frames);
}
