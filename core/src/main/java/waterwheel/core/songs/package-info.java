/**
 * The songs of a running order at work: what lies on the disk of each, its levels against the target, what would bring
 * it there, and delivering it. A song becomes a session of its stems, one bus a part, and everything else is what is
 * done with sessions: there is no other engine.
 *
 * <p>What can be made again lies in the running order's working folder: figures by the state they are true of, the parts
 * of sessions, files that had to be converted. Nothing is ever written into a song's own folder.
 */
@NullMarked
package waterwheel.core.songs;

import org.jspecify.annotations.NullMarked;
