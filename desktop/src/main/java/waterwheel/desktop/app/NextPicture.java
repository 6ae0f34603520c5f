package waterwheel.desktop.app;

import javafx.animation.AnimationTimer;

/** What waits until what is there now has been drawn. Interface thread. */
final class NextPicture {
    private NextPicture() {}

    /** Does it once, when the next picture has been drawn. */
    static void then(Runnable work) {
        new AnimationTimer() {
            private boolean begun;

            /** Called before each picture is drawn. */
            @Override
            public void handle(long now) {
                if (begun) {
                    stop();
                    work.run();
                }
                begun = true;
            }
        }.start();
    }
}
