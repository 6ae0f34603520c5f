/** All that Waterwheel computes; knows no interface. */
module waterwheel.core {
    requires java.desktop;
    requires transitive com.fasterxml.jackson.databind;
    requires com.fasterxml.jackson.dataformat.csv;
    requires com.samskivert.jmustache;
    requires java.flac.encoder;
    requires JLargeArrays;
    requires JTransforms;
    requires static org.jspecify;

    exports waterwheel.core.audiofile;
    exports waterwheel.core.captures;
    exports waterwheel.core.controllers;
    exports waterwheel.core.demo;
    exports waterwheel.core.edit;
    exports waterwheel.core.engine;
    exports waterwheel.core.errors;
    exports waterwheel.core.filefacts;
    exports waterwheel.core.findings;
    exports waterwheel.core.freezing;
    exports waterwheel.core.inserts;
    exports waterwheel.core.intake;
    exports waterwheel.core.instruments;
    exports waterwheel.core.json;
    exports waterwheel.core.levels;
    exports waterwheel.core.load;
    exports waterwheel.core.metering;
    exports waterwheel.core.notes;
    exports waterwheel.core.outboard;
    exports waterwheel.core.path;
    exports waterwheel.core.playback;
    exports waterwheel.core.ports;
    exports waterwheel.core.printing;
    exports waterwheel.core.processing;
    exports waterwheel.core.rack;
    exports waterwheel.core.recall;
    exports waterwheel.core.recording;
    exports waterwheel.core.rides;
    exports waterwheel.core.routing;
    exports waterwheel.core.session;
    exports waterwheel.core.simulation;
    exports waterwheel.core.sources;
    exports waterwheel.core.staging;
    exports waterwheel.core.stems;
    exports waterwheel.core.store;
    exports waterwheel.core.units;
    exports waterwheel.core.work;
}
