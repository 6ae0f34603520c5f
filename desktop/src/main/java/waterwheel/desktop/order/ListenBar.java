package waterwheel.desktop.order;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.Slider;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import waterwheel.core.order.Song;
import waterwheel.core.songs.HeardSong;
import waterwheel.core.units.LevelText;
import waterwheel.desktop.controls.Fader;
import waterwheel.desktop.controls.Hint;
import waterwheel.desktop.controls.SmallButton;
import waterwheel.desktop.controls.SmallChoice;
import waterwheel.desktop.controls.SmallMenu;

/** Listening: the song that plays, what of it is heard, and a large fader for each part. */
final class ListenBar extends VBox {
    private static final double VALUE_WIDTH = 60;
    private static final double LEVELS_WIDTH = 112;

    private final OrderListening listening;
    private final SmallButton play = new SmallButton("Play", "Play the selected song, or stop (Space)");
    private final Label song = new Label();
    private final Label place = new Label();
    private final Slider along = new Slider(0, 1, 0);
    private final SmallChoice<HeardSong.Levels> levels = new SmallChoice<>(
            List.of(HeardSong.Levels.values()),
            one -> one == HeardSong.Levels.DELIVERED ? "as delivered" : "as it was",
            "Levels that are heard",
            "Hear the song as it will be delivered, or as it was before any correction");
    private final SmallMenu blind = new SmallMenu(
            "Compare blindly", "Hear two without being told which is which: choose between them, then have it told");
    private final SmallButton first = new SmallButton("One", "Hear the one");
    private final SmallButton second = new SmallButton("The other", "Hear the other");
    private final SmallButton tell = new SmallButton("Tell", "Tell which one is heard, and end the comparison");
    private final SmallButton keep =
            new SmallButton("Keep for this song", "Make what was moved here part of this song's corrections");
    private final SmallButton reset = new SmallButton("All to 0 dB", "Put every fader here back");
    private final HBox faders = new HBox(14);
    private final SplittableRandom dice = new SplittableRandom();
    private final OrderModel model;
    private @Nullable BlindComparison compared;

    private boolean showing;

    ListenBar(OrderModel model) {
        super(6);
        this.model = model;
        listening = model.listening();
        getStyleClass().add("listen-bar");
        play.getStyleClass().add("play");
        play.setOnAction(event -> listening.playOrStop());
        SmallButton before = new SmallButton("Song before", "Play the song before (Ctrl+Left)");
        before.setOnAction(event -> listening.step(-1));
        SmallButton after =
                new SmallButton("Next song", "Play the next song, at the section that is shown (Ctrl+Right)");
        after.setOnAction(event -> listening.step(1));
        song.setMinWidth(0);
        song.getStyleClass().add("heard-title");
        place.getStyleClass().add("figure");
        place.setMinWidth(Region.USE_PREF_SIZE);
        along.setAccessibleText("Place in the song");
        Hint.on(along, "Place in the song; drag to go there");
        HBox.setHgrow(along, Priority.ALWAYS);
        along.valueProperty().subscribe(value -> {
            if (!showing) {
                listening.jump(value.doubleValue());
            }
        });
        CheckBox cues = new CheckBox("Hear cues");
        Hint.on(cues, "Hear clicks and cues with the rest");
        cues.setMinWidth(USE_PREF_SIZE);
        cues.selectedProperty().subscribe(listening::hearCues);
        levels.setPrefWidth(LEVELS_WIDTH);
        levels.setOnAction(event -> {
            if (!showing) {
                listening.hear(levels.getValue());
            }
        });
        blind.setOnShowing(event -> blind.getItems().setAll(comparisons()));
        blind.getItems().setAll(levelsItem());
        first.setOnAction(event -> hear(true));
        second.setOnAction(event -> hear(false));
        tell.setOnAction(event -> told());
        HBox line = new HBox(8, play, before, after, song, along, place, levels, blind, first, second, tell, cues);
        line.setAlignment(Pos.CENTER_LEFT);
        keep.setOnAction(event -> listening.keepFaders());
        reset.setOnAction(event -> listening.resetFaders());
        faders.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(faders, Priority.ALWAYS);
        HBox moved = new HBox(8, faders, reset, keep);
        moved.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(line, moved);
        listening.heardProperty().subscribe(this::show);
        listening.playingProperty().subscribe(on -> {
            play.setText(on ? "Stop" : "Play");
            play.setAccessibleText(play.getText());
        });
        listening.secondsProperty().subscribe(value -> showPlace(value.doubleValue()));
        listening.levelsProperty().subscribe(which -> {
            showing = true;
            levels.setValue(which);
            showing = false;
        });
        listening.fadersProperty().subscribe(this::showFaders);
        showCompared();
    }

    private List<MenuItem> comparisons() {
        List<MenuItem> items = new ArrayList<>();
        items.add(levelsItem());
        HeardSong heard = listening.heardProperty().get();
        List<Song> songs = model.order().songs();
        int at = heard == null
                ? -1
                : songs.stream().map(Song::id).toList().indexOf(heard.song().id());
        if (at > 0) {
            items.add(songItem("This song with the one before", songs.get(at - 1)));
        }
        if (at >= 0 && at + 1 < songs.size()) {
            items.add(songItem("This song with the next one", songs.get(at + 1)));
        }
        Optional<Song> selected = model.selectedSong();
        if (at >= 0 && selected.isPresent() && !selected.get().equals(songs.get(at))) {
            items.add(songItem("This song with the selected one", selected.get()));
        }
        return items;
    }

    private MenuItem levelsItem() {
        MenuItem item = new MenuItem("As delivered with as it was");
        item.setOnAction(event -> compare(
                new BlindComparison.Thing("as delivered", () -> listening.hear(HeardSong.Levels.DELIVERED)),
                new BlindComparison.Thing("as it was", () -> listening.hear(HeardSong.Levels.BEFORE)),
                false));
        return item;
    }

    private MenuItem songItem(String label, Song other) {
        MenuItem item = new MenuItem(label);
        item.setOnAction(event -> Optional.ofNullable(listening.heardProperty().get())
                .map(HeardSong::song)
                .ifPresent(song -> compare(thing(song), thing(other), true)));
        return item;
    }

    /** A song at the section that is shown. */
    private BlindComparison.Thing thing(Song one) {
        return new BlindComparison.Thing(one.title(), () -> listening.play(one.id()));
    }

    private void compare(BlindComparison.Thing one, BlindComparison.Thing other, boolean songs) {
        compared = new BlindComparison(songs, one, other, dice);
        listening.stay(songs);
        hear(true);
    }

    private void hear(boolean one) {
        BlindComparison now = compared;
        if (now != null) {
            now.hear(one);
            first.setText(one ? "One (heard)" : "One");
            second.setText(one ? "The other" : "The other (heard)");
        }
        showCompared();
    }

    private void told() {
        BlindComparison now = compared;
        compared = null;
        listening.stay(false);
        showCompared();
        if (now != null) {
            model.tell(now.told());
        }
    }

    /** While comparing, the choice that would tell is away. */
    private void showCompared() {
        boolean comparing = compared != null;
        for (Region region : List.of(first, second, tell)) {
            region.setVisible(comparing);
            region.setManaged(comparing);
        }
        for (Region region : List.of(levels, blind)) {
            region.setVisible(!comparing);
            region.setManaged(!comparing);
        }
        for (Region region : List.of(along, place, faders, keep, reset)) {
            region.setVisible(!songsCompared());
        }
        showTitle(listening.heardProperty().get());
    }

    private boolean songsCompared() {
        return compared != null && compared.ofSongs();
    }

    private void showTitle(@Nullable HeardSong heard) {
        song.setText(
                songsCompared()
                        ? "One of two songs"
                        : heard == null ? "Nothing plays yet" : heard.song().title());
    }

    private void show(@Nullable HeardSong heard) {
        boolean any = heard != null;
        along.setDisable(!any);
        blind.setDisable(!any);
        showTitle(heard);
        faders.getChildren().clear();
        if (heard == null) {
            Label hint =
                    new Label("Play a song, and each part has a fader here: for the show, on top of its corrections.");
            hint.getStyleClass().add("muted");
            hint.setMinWidth(0);
            faders.getChildren().add(hint);
        } else {
            heard.names().forEach(name -> faders.getChildren().add(new PartFader(name)));
        }
        showFaders(listening.fadersProperty().get());
        showPlace(0);
    }

    private void showPlace(double seconds) {
        HeardSong heard = listening.heardProperty().get();
        double length = heard == null
                ? 0
                : (double) heard.session().lengthFrames() / heard.session().sampleRateHz();
        showing = true;
        along.setMax(Math.max(1, length));
        if (!along.isValueChanging()) {
            along.setValue(seconds);
        }
        showing = false;
        place.setText(LevelText.time(seconds) + " / " + LevelText.time(length));
    }

    private void showFaders(Map<String, Double> moved) {
        faders.getChildren().forEach(node -> {
            if (node instanceof PartFader fader) {
                fader.show(moved.getOrDefault(fader.part, 0.0));
            }
        });
        boolean any = moved.values().stream().anyMatch(db -> db != 0);
        keep.setDisable(!any);
        reset.setDisable(!any);
    }

    /** A part's fader, large enough not to slip. */
    private final class PartFader extends HBox {
        private final String part;
        private final Fader fader;
        private final Label value = new Label();

        PartFader(String part) {
            super(6);
            this.part = part;
            getStyleClass().add("part-fader");
            setAlignment(Pos.CENTER_LEFT);
            Label name = new Label(part);
            name.setMinWidth(USE_PREF_SIZE);
            value.getStyleClass().add("figure");
            value.setMinWidth(VALUE_WIDTH);
            value.setAlignment(Pos.CENTER_RIGHT);
            fader = new Fader(
                    part + ", while listening",
                    Fader.Travel.FADER,
                    0.5,
                    0,
                    (db, gesture) -> listening.moveFader(part, db));
            HBox.setHgrow(fader, Priority.ALWAYS);
            fader.setMinWidth(60);
            HBox.setHgrow(this, Priority.ALWAYS);
            setMinWidth(0);
            setPrefWidth(0);
            getChildren().addAll(name, fader, value);
        }

        void show(double db) {
            fader.show(db);
            value.setText(LevelText.change(db));
        }
    }
}
