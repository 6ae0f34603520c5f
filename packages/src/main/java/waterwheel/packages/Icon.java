package waterwheel.packages;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.AffineTransform;
import java.awt.geom.Ellipse2D;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.awt.geom.RoundRectangle2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** The application's icon: a wheel of paddles, seen from the side, with the water that it stands in. */
final class Icon {
    private static final Color GROUND = new Color(0x15, 0x2c, 0x32);
    private static final Color WHEEL = new Color(0xdc, 0x9a, 0x5b);
    private static final Color WATER = new Color(0x58, 0xb7, 0xd6);
    private static final int PADDLES = 8;

    private Icon() {}

    /**
     * Draws it.
     *
     * @param size in pixels, of each side
     */
    static void write(Path file, int size) throws IOException {
        BufferedImage image = new BufferedImage(size, size, BufferedImage.TYPE_INT_ARGB);
        Graphics2D out = image.createGraphics();
        out.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        out.scale(size / 100.0, size / 100.0);
        RoundRectangle2D ground = new RoundRectangle2D.Double(2, 2, 96, 96, 22, 22);
        out.setColor(GROUND);
        out.fill(ground);
        out.setColor(WHEEL);
        out.setStroke(new BasicStroke(4.5f, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
        out.draw(new Ellipse2D.Double(24, 20, 52, 52));
        AffineTransform upright = out.getTransform();
        for (int i = 0; i < PADDLES; i++) {
            out.rotate(2 * Math.PI / PADDLES, 50, 46);
            out.draw(new Line2D.Double(50, 40, 50, 12));
            out.draw(new Line2D.Double(50, 12, 57, 14));
        }
        out.setTransform(upright);
        out.fill(new Ellipse2D.Double(44, 40, 12, 12));
        out.setClip(ground);
        out.setColor(WATER);
        for (int level = 0; level < 3; level++) {
            out.fill(new Rectangle2D.Double(0, 70 + 9 * level, 100, 5));
        }
        out.dispose();
        ImageIO.write(image, "png", file.toFile());
    }
}
