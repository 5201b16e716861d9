"""A zip that is written while it is sent: nothing of it is kept whole."""

from __future__ import annotations

from io import BytesIO
from typing import Any

#: So many bytes are gathered before they are sent.
PIECE = 65_536


class Sink(BytesIO):
    """Keeps what the zip writes until it is taken; its place goes on counting, as a zip needs."""

    def __init__(self) -> None:
        super().__init__()
        self.gone = 0

    def seek(self, *_: Any) -> int:
        raise OSError("what was taken is gone")  # tells the zip to write sizes behind the data

    def tell(self) -> int:
        return self.gone + super().tell()

    def taken(self) -> bytes:
        piece = self.getvalue()
        self.gone += len(piece)
        super().seek(0)
        self.truncate()
        return piece
