"""A page in headless Chromium, over its debugging pipe: what it asks for, how wide it is, what can be seen of it."""

from __future__ import annotations

import base64
import fcntl
import json
import os
import select
import shutil
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

WITHIN_S = 60.0
_FLAGS = (
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--hide-scrollbars",
    "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage",
    "--remote-debugging-pipe",
)  # fmt: skip


def chromium() -> str | None:
    """Where it is; None where it is not installed."""
    return shutil.which("chromium") or shutil.which("chromium-browser")


class Page:
    """One page; every address that it asked for is kept."""

    def __init__(self, into: int, out: int) -> None:
        self._into, self._out, self._buffer, self._number = into, out, b"", 0
        self._events: list[dict[str, Any]] = []
        target = self._ask("Target.createTarget", url="about:blank")["targetId"]
        self._session = self._ask("Target.attachToTarget", targetId=target, flatten=True)["sessionId"]
        for domain in ("Page", "Network", "Runtime"):
            self.ask(f"{domain}.enable")

    def open(self, path: Path, width: int, height: int = 900, *, dark: bool = False) -> None:
        """Load a file as a window of this size."""
        self._events.clear()
        self.ask(
            "Emulation.setDeviceMetricsOverride", width=width, height=height, deviceScaleFactor=1, mobile=width < 600
        )
        scheme = {"name": "prefers-color-scheme", "value": "dark" if dark else "light"}
        self.ask("Emulation.setEmulatedMedia", features=[scheme])
        self.ask("Page.navigate", url=path.as_uri())
        self._wait_for("Page.loadEventFired")

    @property
    def asked_for(self) -> list[str]:
        """Every address that was asked for since it was opened."""
        return [
            each["params"]["request"]["url"] for each in self._events if each["method"] == "Network.requestWillBeSent"
        ]

    def value(self, expression: str) -> Any:
        """What an expression comes to in the page."""
        return self.ask("Runtime.evaluate", expression=expression, returnByValue=True)["result"].get("value")

    def picture(self, path: Path) -> Path:
        data = self.ask("Page.captureScreenshot", format="png")["data"]
        path.write_bytes(base64.b64decode(data))
        return path

    def ask(self, method: str, **params: Any) -> dict[str, Any]:
        return self._ask(method, session=self._session, **params)

    def _ask(self, method: str, session: str | None = None, **params: Any) -> dict[str, Any]:
        self._number += 1
        number = self._number
        said = {"id": number, "method": method, "params": params} | ({"sessionId": session} if session else {})
        os.write(self._into, json.dumps(said).encode() + b"\0")
        while True:
            message = self._next()
            if message.get("id") == number:
                assert "error" not in message, message
                result: dict[str, Any] = message["result"]
                return result
            self._events.append(message)

    def _wait_for(self, method: str) -> None:
        while not any(each.get("method") == method for each in self._events):
            self._events.append(self._next())

    def _next(self) -> dict[str, Any]:
        until = time.monotonic() + WITHIN_S
        while b"\0" not in self._buffer:
            ready, _, _ = select.select([self._out], [], [], max(0.0, until - time.monotonic()))
            assert ready, "the browser does not answer"
            part = os.read(self._out, 1 << 20)
            assert part, "the browser ended"
            self._buffer += part
        line, _, self._buffer = self._buffer.partition(b"\0")
        message: dict[str, Any] = json.loads(line)
        return message


@contextmanager
def opened_browser(folder: Path) -> Iterator[Page]:
    """A browser with a fresh profile; it ends with the block."""
    program = chromium()
    assert program is not None
    ends = [*os.pipe(), *os.pipe()]
    high = [fcntl.fcntl(end, fcntl.F_DUPFD_CLOEXEC, 20) for end in ends]
    for end in ends:
        os.close(end)
    heard, into, out, said = high

    def as_three_and_four() -> None:
        os.dup2(heard, 3)
        os.dup2(said, 4)

    browser = subprocess.Popen(
        [program, *_FLAGS, f"--user-data-dir={folder / 'profile'}"], pass_fds=(3, 4), preexec_fn=as_three_and_four,
        stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
    )  # fmt: skip
    os.close(heard)
    os.close(said)
    try:
        yield Page(into, out)
    finally:
        browser.kill()
        browser.wait()
        os.close(into)
        os.close(out)
