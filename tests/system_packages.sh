#!/bin/sh
# Installs what the tests need from the system, where it may; says plainly where it may not.
set -eu
command -v tmux >/dev/null 2>&1 && exit 0
if command -v apt-get >/dev/null 2>&1 && [ "$(id -u)" = 0 ]; then
    echo "Installing tmux, which the end-to-end tests drive the application in."
    apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq tmux >/dev/null && exit 0
fi
echo "tmux is missing and cannot be installed here: the end-to-end tests will be skipped." >&2
echo "Install it with your system's package manager to run them." >&2
