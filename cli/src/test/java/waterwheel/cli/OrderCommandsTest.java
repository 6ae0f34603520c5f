package waterwheel.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.audiofile.SampleEncoding;
import waterwheel.core.audiofile.WavWriter;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.session.Session;
import waterwheel.core.store.OrderFile;
import waterwheel.core.store.SessionFolder;

/** Running orders from the command line. A 997 Hz sine of -20 dBFS on both sides measures -20.0 LUFS. */
@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OrderCommandsTest extends RunCommands {
    private String order;

    @BeforeEach
    void two_songs() throws Exception {
        order = folder.resolve("order.json").toString();
        tone("Reel/Drums", -20);
        tone("Reel/Bass", -30);
        tone("Reel/Click", -10);
        tone("Jig/Drums", -26);
        tone("Jig/Bass", -14);
        assertThat(run("order", "new", order, "--title", "Evening")).isZero();
        assertThat(run("order", "add", order, song("Reel"), song("Jig"))).isZero();
    }

    private void tone(String name, double peakDbfs) throws Exception {
        Path file = folder.resolve(name + ".wav");
        Files.createDirectories(file.getParent());
        float[][] planes = new float[1][4 * 48_000];
        for (int i = 0; i < planes[0].length; i++) {
            planes[0][i] = (float) (Math.pow(10, peakDbfs / 20) * Math.sin(2 * Math.PI * 997 * i / 48_000));
        }
        try (WavWriter writer = WavWriter.create(file, 1, 48_000, SampleEncoding.FLOAT_32, planes[0].length)) {
            writer.write(planes, 0, planes[0].length);
            writer.finish();
        }
    }

    private String song(String name) {
        return folder.resolve(name).toString();
    }

    private RunningOrder saved() throws Exception {
        return OrderFile.load(Path.of(order)).order();
    }

    @Test
    void songs_are_listed_as_they_were_added() throws Exception {
        assertThat(run("order", "list", order, "--json")).isZero();
        JsonNode list = json("order-list");
        assertThat(list.get("title").textValue()).isEqualTo("Evening");
        assertThat(list.get("songs").findValuesAsText("title")).containsExactly("Reel", "Jig");
        assertThat(saved().songs().getFirst().path()).isEqualTo("Reel");
        assertThat(saved().parts()).extracting(part -> part.name()).containsExactly("Bass", "Click", "Drums");
        assertThat(run("order", "add", order, song("Nowhere"))).isEqualTo(1);
        assertThat(err()).contains("is not there");
        assertThat(saved().songs()).hasSize(2);
    }

    @Test
    void levels_are_compared_with_the_target() throws Exception {
        assertThat(run("order", "levels", order, "--json")).isZero();
        JsonNode reel = json("order-levels").get("songs").get(0);
        JsonNode bass = reel.get("parts").get(0);
        assertThat(bass.get("name").textValue()).isEqualTo("Bass");
        assertThat(bass.get("integratedLufs").doubleValue()).isCloseTo(-30, within(0.05));
        assertThat(bass.get("offLu").doubleValue()).isCloseTo(-10, within(0.05));
        assertThat(bass.get("nearness").textValue()).isEqualTo("off");
        assertThat(reel.get("parts").get(1).has("offLu"))
                .as("a click has no target")
                .isFalse();
        assertThat(run("order", "levels", order, "--song", "jig", "--jsonl")).isZero();
        assertThat(out().lines()).singleElement().asString().contains("\"title\":\"Jig\"");
        assertThat(run("order", "levels", order)).isZero();
        assertThat(out()).contains("Reel", "Drums: \u221220.0 LUFS", "within (0.0 LU)");
    }

    @Test
    void a_song_that_cannot_be_read_is_told_and_the_others_are_measured() throws Exception {
        Files.delete(folder.resolve("Jig/Bass.wav"));
        Files.delete(folder.resolve("Jig/Drums.wav"));
        assertThat(run("order", "levels", order, "--json")).isEqualTo(1);
        JsonNode songs = json("order-levels").get("songs");
        assertThat(songs.get(0).get("ok").booleanValue()).isTrue();
        assertThat(songs.get(1).get("error").textValue()).contains("Jig");
        assertThat(err()).startsWith("Jig: ");
    }

    @Test
    void equal_proposes_and_applies_only_when_told_to() throws Exception {
        assertThat(run("order", "equal", order, "--target", "-24", "--json")).isZero();
        JsonNode proposals = json("order-equal").get("proposals");
        assertThat(proposals).hasSize(4);
        assertThat(saved().songs()).allMatch(song -> song.corrections().isEmpty());
        assertThat(run("order", "equal", order, "--target", "-24", "--apply")).isZero();
        assertThat(saved().target().lufs()).isEqualTo(-24);
        assertThat(saved().songs().getFirst().correction("Bass").gainDb()).isCloseTo(6, within(0.03));
        assertThat(run("order", "equal", order, "--json")).isZero();
        assertThat(json("order-equal").get("proposals")).isEmpty();
    }

    @Test
    void a_part_or_the_sum_is_brought_there_alone() throws Exception {
        assertThat(run("order", "equal", order, "--part", "Bass", "--target", "-22", "--apply"))
                .isZero();
        assertThat(saved().targetLufs("Bass")).isEqualTo(-22);
        assertThat(saved().targetLufs("Drums")).isEqualTo(-20);
        assertThat(saved().songs().getFirst().correction("Drums").gainDb()).isZero();
        assertThat(run("order", "equal", order, "--part", "Tuba")).isEqualTo(1);
        assertThat(err()).contains("No song has a part 'Tuba'", "Bass, Drums, Click");
        assertThat(run("order", "equal", order, "--sum", "--target", "-16", "--apply"))
                .isZero();
        assertThat(run("order", "levels", order, "--json")).isZero();
        for (JsonNode song : json("order-levels").get("songs")) {
            assertThat(song.get("sum").get("integratedLufs").doubleValue()).isCloseTo(-16, within(0.05));
        }
    }

    @Test
    void songs_are_delivered_and_the_second_time_are_up_to_date() throws Exception {
        String out = folder.resolve("out").toString();
        assertThat(run("order", "deliver", order, "--out", out, "--json")).isZero();
        assertThat(json("order-deliver").get("songs").get(0).get("holds").booleanValue())
                .isTrue();
        assertThat(folder.resolve("out/01 Reel/cues/Click.wav")).exists();
        assertThat(folder.resolve("out/delivery.html")).content().contains("2 of 2 songs");
        assertThat(run("order", "deliver", order, "--out", out, "--song", "Reel", "--jsonl"))
                .isZero();
        assertThat(out().lines()).singleElement().asString().contains("\"upToDate\":true");
        assertThat(run(
                        "order",
                        "deliver",
                        order,
                        "--out",
                        folder.resolve("sides").toString(),
                        "--sides"))
                .isZero();
        assertThat(folder.resolve("sides/02 Jig/02 Jig.wav")).exists();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "deliver --channels 9 | 2 to 8 channels | 2",
                "deliver --sides --channels 4 | mutually exclusive | 2",
                "deliver --line-up Nobody | no line-up 'Nobody' | 1",
                "deliver --song Waltz | no song 'Waltz' | 1",
                "equal --target 3 | -70 to 0 | 2"
            })
    void what_cannot_be_is_refused_in_a_sentence(String words, String told, int status) {
        List<String> args = new ArrayList<>(List.of(words.strip().split(" ")));
        args.add(1, order);
        args.addFirst("order");
        if (words.startsWith("deliver")) {
            args.addAll(List.of("--out", folder.resolve("out").toString()));
        }
        assertThat(run(args.toArray(String[]::new))).isEqualTo(status);
        assertThat(err()).contains(told.strip());
        assertThat(folder.resolve("out")).doesNotExist();
    }

    @Test
    void one_flow_is_laid_over_other_songs() throws Exception {
        Path one = folder.resolve("session one");
        Path two = folder.resolve("session two");
        for (Path song : List.of(one, two)) {
            assertThat(run("new", song.toString(), song("Reel"))).isZero();
        }
        Session session = SessionFolder.load(one).session();
        SessionFolder.save(session.withStrip(session.tracks().getFirst().id(), strip -> strip.withFaderDb(-7)), one);
        assertThat(run("order", "add", order, one.toString(), two.toString())).isZero();
        byte[] before = Files.readAllBytes(two.resolve("session.json"));
        String[] like = {"order", "like", order, "--from", "session one", "--song", "session two", "Reel", "--json"};
        assertThat(run(like)).as("one of the songs has no flow").isEqualTo(1);
        JsonNode songs = json("order-like").get("songs");
        assertThat(songs.get(0).get("error").textValue()).contains("is no session");
        assertThat(songs.get(1).get("changes").get(0).textValue()).contains("fader \u22127.0 dB instead of 0.0 dB");
        assertThat(Files.readAllBytes(two.resolve("session.json"))).isEqualTo(before);
        assertThat(run("order", "like", order, "--from", "session one", "--song", "session two", "--apply"))
                .isZero();
        assertThat(SessionFolder.load(two).session().tracks().getFirst().strip().faderDb())
                .isEqualTo(-7);
    }
}
