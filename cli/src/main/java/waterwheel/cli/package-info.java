/**
 * The command line: one class a command. With {@code --json} standard output holds one JSON document and nothing else;
 * messages and progress go to standard error. Exit status 0 is done, 1 a refused input, 2 wrong usage.
 */
@NullMarked
package waterwheel.cli;

import org.jspecify.annotations.NullMarked;
