package waterwheel.desktop.app;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import javafx.scene.Scene;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javax.imageio.ImageIO;

/** Pictures of a scene as PNG files. */
final class Pictures {
    private Pictures() {}

    /** A picture's pixels, which any thread may write to a file. */
    static final class Pixels {
        private final BufferedImage image;

        private Pixels(BufferedImage image) {
            this.image = image;
        }
    }

    /** Draws a scene as it is now. On the interface thread. */
    static Pixels of(Scene scene) {
        WritableImage drawn = scene.snapshot(null);
        int width = (int) drawn.getWidth();
        int height = (int) drawn.getHeight();
        int[] row = new int[width * height];
        drawn.getPixelReader().getPixels(0, 0, width, height, PixelFormat.getIntArgbInstance(), row, 0, width);
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        image.setRGB(0, 0, width, height, row, 0, width);
        return new Pixels(image);
    }

    static void write(Pixels pixels, Path file) throws IOException {
        if (!ImageIO.write(pixels.image, "png", file.toFile())) {
            throw new IOException("This Java cannot write PNG files");
        }
    }
}
