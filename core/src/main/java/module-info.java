/** All that Waterwheel computes; knows no interface. */
module waterwheel.core {
    requires static org.jspecify;

    exports waterwheel.core.edit;
    exports waterwheel.core.errors;
    exports waterwheel.core.routing;
    exports waterwheel.core.session;
    exports waterwheel.core.units;
}
