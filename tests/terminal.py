"""A terminal of its own for tests: tmux runs the application, types keys and reads the screen."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

MURVEL = f"{sys.executable} -m murvel"
PATIENCE = 30.0
PROMPT = "ready:"


class Terminal:
    """A terminal of its own, with its own home."""

    def __init__(self, home: Path) -> None:
        self.home = home
        self.socket = str(home / "tmux")
        self._tmux(
            "new-session", "-d", "-x", "120", "-y", "40", f"env HOME={home} XDG_DATA_HOME={home}/data PS1={PROMPT} sh"
        )

    def _tmux(self, *arguments: str) -> str:
        # What the tests run in may state a size of its own, which is not the terminal's.
        environment = {name: value for name, value in os.environ.items() if name not in ("COLUMNS", "LINES")}
        environment |= {"TERM": "xterm-256color", "LC_ALL": "C.UTF-8"}
        command = ["tmux", "-f", "/dev/null", "-S", self.socket, *arguments]
        return subprocess.run(command, capture_output=True, text=True, check=True, env=environment).stdout

    def screen(self) -> str:
        return self._tmux("capture-pane", "-p")

    def type(self, text: str) -> None:
        self._tmux("send-keys", "-l", text)

    def press(self, *keys: str) -> None:
        for key in keys:
            self._tmux("send-keys", key)

    def wait_for(self, words: str) -> str:
        end = time.monotonic() + PATIENCE
        while time.monotonic() < end:
            screen = self.screen()
            if words in screen:
                return screen
            time.sleep(0.02)
        raise AssertionError(f"{words!r} did not come up:\n{self.screen()}")

    def wait_until(self, holds: Callable[[], object]) -> None:
        """Wait until something holds; fail where it does not in good time."""
        end = time.monotonic() + PATIENCE
        while not holds():
            assert time.monotonic() < end, f"it did not come to be:\n{self.screen()}"
            time.sleep(0.02)

    def wait_until_gone(self, words: str) -> None:
        end = time.monotonic() + PATIENCE
        while words in self.screen():
            assert time.monotonic() < end, f"{words!r} did not go away"
            time.sleep(0.02)

    def tab(self) -> None:
        """Go to the next field. Nothing on the screen tells when it has the keys, so this waits for a while."""
        self.press("Tab")
        time.sleep(0.2)

    def jump(self, letter: str) -> None:
        """Jump on to a kind."""
        self.press("]")
        self.wait_for("jump on to the next")
        self.press(letter)
        self.wait_until_gone("jump on to the next")

    def kill(self, how: signal.Signals = signal.SIGKILL) -> None:
        """Kill what runs in the terminal, and wait for the shell."""
        shell = self._tmux("list-panes", "-F", "#{pane_pid}").strip()
        (running,) = Path(f"/proc/{shell}/task/{shell}/children").read_text().split()
        os.kill(int(running), how)
        self.wait_for(PROMPT)

    def close(self) -> None:
        self._tmux("kill-server")


@pytest.fixture
def terminal(tmp_path: Path) -> Iterator[Terminal]:
    terminal = Terminal(tmp_path)
    yield terminal
    terminal.close()
