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
from collections.abc import Iterable, Iterator

_TABLE = re.compile(rb"CREATE TABLE `([^`]+)`")
_SUM, _END = b"-- sum\t", b"-- end of backup\n"


def sums_of(lines: Iterable[bytes]) -> Iterator[tuple[bytes, list[bytes]]]:
    """Each line as it passes, and beside it the tables' sums so far, complete with the last line."""
    sums: list[bytes] = []
    table, rows, digest = b"", 0, hashlib.sha256()

    def ended() -> list[bytes]:
        return [*sums, b"%s\t%d\t%s" % (table, rows, digest.hexdigest().encode())] if table else sums

    for line in lines:
        begins = _TABLE.match(line)
        if begins:
            sums = ended()
            table, rows, digest = begins[1], 0, hashlib.sha256()
        if table:
            # the counter that a table goes on from is no part of what it holds
            digest.update(re.sub(rb" AUTO_INCREMENT=\d+", b"", line) if line.startswith(b") ENGINE") else line)
            rows += line.startswith(b"(")
        yield line, []
    yield b"", ended()


def main(what: str) -> int:
    told: list[bytes] = []
    source = sys.stdin.buffer

    def body() -> Iterator[bytes]:
        for line in source:
            if line.startswith(_SUM) or line == _END:
                told.append(line)
            else:
                yield line

    found: list[bytes] = []
    for line, sums in sums_of(body()):
        if what == "write":
            sys.stdout.buffer.write(line)
        found = sums
    listed = [_SUM + each + b"\n" for each in found]
    if what == "check" and (not found or told != [*listed, _END]):
        said = "holds no table" if not found else "was cut short or changed since it was written"
        print(f"This backup {said}.", file=sys.stderr)  # noqa: T201 - a command's own words
        return 1
    sys.stdout.buffer.writelines([*listed, _END] if what == "write" else listed)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
