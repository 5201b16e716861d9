"""Lines out of the bytes that come over a wire, in whatever pieces."""

from __future__ import annotations

#: A line that is longer is no line of an instrument: it is dropped up to its end.
LONGEST = 256


class LineBuffer:
    """Gives whole lines; keeps the rest for the next bytes, and never more than ``LONGEST`` of them."""

    def __init__(self) -> None:
        self._rest = b""
        self._dropping = False
        #: Lines that were too long, so far.
        self.dropped = 0

    def feed(self, received: bytes) -> list[str]:
        """The lines that these bytes end, without their ends and empty ones; bytes that are no ASCII become "?"."""
        *ended, rest = (self._rest + received.replace(b"\r", b"\n")).split(b"\n")
        if self._dropping and ended:
            ended, self._dropping = ended[1:], False
        if self._dropping:
            rest = b""
        found = []
        for line in ended:
            if len(line) > LONGEST:
                self.dropped += 1
            elif line.strip():
                found.append(line.decode("ascii", "replace").replace("\ufffd", "?").strip())
        if len(rest) > LONGEST:
            self.dropped += 1
            rest, self._dropping = b"", True
        self._rest = rest
        return found
