"""Sums of a database's dump, taken from the dump itself: reads one from standard input.

dump_sums.py write    passes the dump on and puts a line for each table behind it: its name, rows and SHA-256
dump_sums.py check    compares a dump with the lines behind it; prints them; 1 where it is empty, cut short or differs
dump_sums.py print    prints the lines of a dump that has none

MariaDB's client writes each row on a line of its own, so what is summed are the lines from a table's CREATE to the next.
"""

from __future__ import annotations

import hashlib
import re
import sys

_TABLE = re.compile(rb"CREATE TABLE `([^`]+)`")
_SUM, _END = b"-- sum\t", b"-- end of backup\n"


class Sums:
    """The sums of the tables whose lines have passed."""

    def __init__(self) -> None:
        self._ended: list[bytes] = []
        self._table, self._rows, self._digest = b"", 0, hashlib.sha256()

    def take(self, line: bytes) -> None:
        """One line of the dump, in its order."""
        begins = _TABLE.match(line)
        if begins:
            self._ended = self.lines()
            self._table, self._rows, self._digest = begins[1], 0, hashlib.sha256()
        # the counter that a table goes on from is no part of what it holds
        self._digest.update(re.sub(rb" AUTO_INCREMENT=\d+", b"", line) if line.startswith(b") ENGINE") else line)
        self._rows += line.startswith(b"(")

    def lines(self) -> list[bytes]:
        """A line for each table: its name, rows and SHA-256."""
        if not self._table:
            return []
        told = b"%s\t%d\t%s" % (self._table, self._rows, self._digest.hexdigest().encode())
        return [*self._ended, _SUM + told + b"\n"]


def main(what: str) -> int:
    sums, told = Sums(), []
    for line in sys.stdin.buffer:
        if line.startswith(_SUM) or line == _END:
            told.append(line)
            continue
        sums.take(line)
        if what == "write":
            sys.stdout.buffer.write(line)
    listed = sums.lines()
    if what == "check" and (not listed or told != [*listed, _END]):
        said = "was cut short or changed since it was written" if listed else "holds no table"
        print(f"This backup {said}.", file=sys.stderr)  # noqa: T201 - a command's own words
        return 1
    sys.stdout.buffer.writelines([*listed, _END] if what == "write" else listed)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
