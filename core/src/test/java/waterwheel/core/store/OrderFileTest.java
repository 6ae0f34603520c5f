package waterwheel.core.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.DisplayNameGeneration;
import org.junit.jupiter.api.DisplayNameGenerator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import waterwheel.core.errors.SessionFileException;
import waterwheel.core.inserts.Processor;
import waterwheel.core.json.Json;
import waterwheel.core.order.Correction;
import waterwheel.core.order.LineUp;
import waterwheel.core.order.Part;
import waterwheel.core.order.RunningOrder;
import waterwheel.core.order.Song;
import waterwheel.core.order.SongId;
import waterwheel.core.order.Stretch;
import waterwheel.core.order.Target;
import waterwheel.core.processing.Equaliser;

@DisplayNameGeneration(DisplayNameGenerator.ReplaceUnderscores.class)
class OrderFileTest {
    @TempDir
    @SuppressWarnings("NullAway.Init")
    Path folder;

    private static final RunningOrder FULL = new RunningOrder(
            "Evening",
            new Target(Target.Goal.SUM, -18.5, 0.5, -2),
            List.of(new Part("Drums", false, OptionalDouble.of(-21)), new Part("Click", true, OptionalDouble.empty())),
            Map.of("stomp", "Drums", "noise", RunningOrder.LEFT_OUT),
            List.of(new Song(
                    new SongId("s1"),
                    "01 Reel",
                    "Reel",
                    List.of(new Stretch("Verse", 1.5, 20)),
                    Map.of(
                            "Drums",
                            new Correction(
                                    -3.25,
                                    Optional.of(Processor.usual(Equaliser.KIND).with("bell1Db", -4)))))),
            List.of(new LineUp("With drummer", List.of("Click"))));

    @Provide
    Arbitrary<RunningOrder> orders() {
        Arbitrary<String> names =
                Arbitraries.strings().ofMinLength(1).ofMaxLength(12).filter(name -> !name.isBlank());
        Arbitrary<Correction> corrections = Combinators.combine(
                        Arbitraries.doubles().between(-48, 48),
                        Arbitraries.doubles().between(-24, 24))
                .as((gain, bell) -> new Correction(
                        gain,
                        bell < 0
                                ? Optional.empty()
                                : Optional.of(Processor.usual(Equaliser.KIND).with("bell2Db", bell))));
        Arbitrary<Map<String, Correction>> some =
                Arbitraries.maps(names, corrections).ofMaxSize(4);
        Arbitrary<List<String>> parts = names.list().uniqueElements().ofMaxSize(5);
        return Combinators.combine(names, parts, some, Arbitraries.doubles().between(-70, 0))
                .as((title, found, corrected, lufs) -> {
                    Map<String, String> said = new HashMap<>();
                    found.forEach(name -> said.put(name, found.getFirst()));
                    return new RunningOrder(
                            title,
                            Target.USUAL.withLufs(lufs),
                            found.stream()
                                    .map(name -> new Part(name, name.length() > 4, OptionalDouble.of(lufs)))
                                    .toList(),
                            said,
                            List.of(new Song(new SongId("s1"), title, title, List.of(), corrected)),
                            found.stream().map(name -> new LineUp(name, found)).toList());
                });
    }

    @Property(tries = 200)
    void what_is_written_is_read_again(@ForAll("orders") RunningOrder order) throws Exception {
        assertThat(OrderJson.read(Json.parse(Json.pretty(OrderJson.write(order))))
                        .order())
                .isEqualTo(order);
    }

    @Test
    void the_file_is_as_its_schema_says() throws Exception {
        Path schema = Path.of("../docs/schema/order.schema.json");
        assertThat(JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                        .getSchema(Files.readString(schema))
                        .validate(OrderJson.write(FULL)))
                .isEmpty();
    }

    @Test
    void saving_keeps_the_save_before_and_changes_nothing_else() throws Exception {
        Path file = folder.resolve("order.json");
        OrderFile.create(RunningOrder.empty("Evening"), file);
        OrderFile.Loaded first = OrderFile.load(file);
        OrderFile.save(FULL, file);
        assertThat(OrderFile.load(file).order()).isEqualTo(FULL);
        assertThat(OrderFile.changedSince(file, first)).isTrue();
        try (var earlier = Files.list(OrderFile.working(file).resolve("earlier"))) {
            assertThat(earlier).hasSize(1);
        }
    }

    @Test
    void a_running_order_is_begun_once_and_in_a_file_of_its_kind() throws Exception {
        Path file = folder.resolve("order.json");
        OrderFile.create(FULL, file);
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> OrderFile.create(RunningOrder.empty("Other"), file))
                .withMessageContaining("is there already");
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> OrderFile.create(FULL, folder.resolve("order.txt")))
                .withMessageContaining(".json");
        assertThat(OrderFile.load(file).order()).isEqualTo(FULL);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "{} | not the file of a running order",
                "{\"format\":\"waterwheel-session\"} | not the file of a running order",
                "{\"format\":\"waterwheel-order\",\"version\":2} | newer",
                "{\"format\":\"waterwheel-order\",\"version\":1} | is missing",
                "[] | not an object",
                "{\"format\": | damaged"
            })
    void what_cannot_be_read_is_told_in_a_sentence(String text, String told) throws Exception {
        Path file = folder.resolve("order.json");
        Files.writeString(file, text);
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> OrderFile.load(file))
                .withMessageContaining("order.json")
                .withMessageContaining(told);
        assertThat(file).hasContent(text);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "\"lufs\" : -18.5 | \"lufs\" : 3 | target.lufs",
                "\"gainDb\" : -3.25 | \"gainDb\" : 90 | songs[0]",
                "\"id\" : \"s1\" | \"id\" : \"a b\" | songs[0] cannot be",
                "\"endSeconds\" : 20.0 | \"endSeconds\" : 1.0 | sections[0] cannot be",
                "\"goal\" : \"sum\" | \"goal\" : \"all\" | parts, sum"
            })
    void a_wrong_value_is_told_with_its_place(String value, String wrong, String told) throws Exception {
        Path file = folder.resolve("order.json");
        String text = Json.pretty(OrderJson.write(FULL));
        assertThat(text).contains(value.strip());
        Files.writeString(file, text.replace(value.strip(), wrong.strip()));
        assertThatExceptionOfType(SessionFileException.class)
                .isThrownBy(() -> OrderFile.load(file))
                .withMessageContaining(told.strip());
    }

    @Test
    void a_field_that_is_not_known_is_told_of() throws Exception {
        Path file = folder.resolve("order.json");
        Files.writeString(
                file,
                Json.pretty(OrderJson.write(FULL))
                        .replace("\"title\" : \"Reel\"", "\"title\" : \"Reel\", \"key\" : 3"));
        assertThat(OrderFile.load(file).unknownFields()).containsExactly("songs[0].key");
    }

    @Test
    void songs_near_the_file_are_named_from_it_and_others_in_full() {
        Path file = folder.resolve("orders/order.json");
        assertThat(OrderFile.written(file, folder.resolve("orders/01 Reel"))).isEqualTo("01 Reel");
        assertThat(OrderFile.written(file, folder.resolve("songs/01 Reel"))).isEqualTo("../songs/01 Reel");
        Path far = Path.of("/elsewhere/01 Reel").toAbsolutePath();
        assertThat(OrderFile.written(file, far)).isEqualTo(far.toString().replace('\\', '/'));
    }
}
