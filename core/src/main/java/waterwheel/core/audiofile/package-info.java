/**
 * Audio files: a bounds-checked reader over mapped memory and a writer that puts a file under its name only when it is
 * whole. Samples are float, planar, full scale ±1.0. Formats after the Multimedia Programming Interface and Data
 * Specifications 1.0 (RIFF WAVE) and its extensible format. An {@link waterwheel.core.audiofile.AudioFile} may be
 * shared by threads; each of its readers belongs to one at a time.
 */
@NullMarked
package waterwheel.core.audiofile;

import org.jspecify.annotations.NullMarked;
