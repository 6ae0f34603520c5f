#!/bin/sh
# Starts Waterwheel. File names and arguments are UTF-8, also where the locale knows ASCII alone.
if [ "$(locale charmap 2>/dev/null)" != UTF-8 ]; then
    export LC_ALL=C.UTF-8
fi
self=$(readlink -f "$0")
exec "${self%/*}/waterwheel-run" "$@"
