package waterwheel.core.session;

import java.util.AbstractList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.RandomAccess;
import java.util.function.Function;

/** An immutable list whose elements are found by their ids at once; of several with one id the first. */
final class IdList<K, T> extends AbstractList<T> implements RandomAccess {
    private final List<T> elements;
    private final Map<K, T> byId;

    private IdList(List<T> elements, Map<K, T> byId) {
        this.elements = elements;
        this.byId = byId;
    }

    static <K, T> IdList<K, T> of(List<T> elements, Function<T, K> id) {
        List<T> copy = List.copyOf(elements);
        Map<K, T> byId = HashMap.newHashMap(copy.size());
        copy.forEach(element -> byId.putIfAbsent(id.apply(element), element));
        return new IdList<>(copy, byId);
    }

    /** The element of an id in a list that may be one of these. */
    static <K, T> Optional<T> find(List<T> list, K id, Function<T, K> idOf) {
        return list instanceof IdList<?, T> indexed
                ? Optional.ofNullable(indexed.byId.get(id))
                : list.stream()
                        .filter(element -> idOf.apply(element).equals(id))
                        .findFirst();
    }

    @Override
    public T get(int index) {
        return elements.get(index);
    }

    @Override
    public int size() {
        return elements.size();
    }
}
