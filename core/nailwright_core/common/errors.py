"""The one error core raises at a person's input: what was expected, what was got, where."""

from __future__ import annotations


class CoreError(Exception):
    """Input that core refuses.

    Attributes:
        code: a stable machine-readable word, for instance ``length_unreadable``.
        message: one or two sentences for a person: what was expected, what was got, what to do.
        field: the name of the input that is at fault, or None where it is several together.
    """

    def __init__(self, code: str, message: str, field: str | None = None) -> None:
        super().__init__(code, message, field)  # args hold all three, so that the error survives pickling
        self.code = code
        self.message = message
        self.field = field

    def __str__(self) -> str:
        return self.message
