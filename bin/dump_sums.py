"""Sums of a database's dump, taken from the dump itself: reads one from standard input.

dump_sums.py write    passes the dump on and puts a line for each table behind it: its name, rows and SHA-256; then their signature
dump_sums.py check    compares a dump with the lines behind it; prints them; 1 where it is empty, cut short, differs, is not signed by
                      this installation, or does more than fill the tables of one database; check-unsigned: of another's
dump_sums.py print    prints the lines of a dump that has none

The signature is HMAC-SHA256 (RFC 2104) of the lines under NAILWRIGHT_SIGN_KEY: whoever can make sums anew cannot make that.

MariaDB's client writes each row on a line of its own, so what is summed are the lines from a table's CREATE to the next.
"""

from __future__ import annotations

import hashlib
import hmac
import os
import re
import sys

_TABLE = re.compile(rb"CREATE TABLE `([^`]+)`")
_SUM, _SIGNED, _END = b"-- sum\t", b"-- signed\t", b"-- end of backup\n"
#: What no backup of ours says: it goes into the database that it is restored to, and into no other.
_STRANGE = re.compile(
    rb"\s*(\\|(USE|GRANT|REVOKE|SOURCE|SYSTEM|LOAD|RENAME|SET\s+(GLOBAL|PASSWORD|ROLE)|(CREATE|DROP|ALTER)\s+(DATABASE|SCHEMA|USER|ROLE"
    rb"|SERVER|EVENT))\b|(INSERT\s+INTO|(CREATE|DROP|LOCK|ALTER)\s+TABLES?(\s+IF\s+\w+)*)\s+`?\w+`?\s*[.])",
    re.IGNORECASE,
)


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
        if line.startswith((_SUM, _SIGNED)) or line == _END:
            told.append(line)
            continue
        if what.startswith("check") and not line.startswith(b"(") and _STRANGE.match(line):
            print("This backup names another database, or does more than a backup does.", file=sys.stderr)  # noqa: T201
            return 1
        sums.take(line)
        if what == "write":
            sys.stdout.buffer.write(line)
    listed = sums.lines()
    if what.startswith("check"):
        signed = [line for line in told if line.startswith(_SIGNED)]
        said = ""
        if not listed or [line for line in told if line not in signed] != [*listed, _END]:
            said = "was cut short or changed since it was written" if listed else "holds no table"
        elif what == "check" and not (len(signed) == 1 and hmac.compare_digest(signed[0], signature(listed))):
            said = "is not signed by this installation (its NAILWRIGHT_SECRET_KEY). If you know where it comes from, restore it with --unsigned"
        if said:
            print(f"This backup {said}.", file=sys.stderr)  # noqa: T201 - a command's own words
            return 1
    sys.stdout.buffer.writelines([*listed, signature(listed), _END] if what == "write" else listed)
    return 0


def signature(listed: list[bytes]) -> bytes:
    """The line that says that these sums are of this installation."""
    key = os.environ["NAILWRIGHT_SIGN_KEY"].encode()
    return _SIGNED + hmac.new(key, b"".join(listed), "sha256").hexdigest().encode() + b"\n"


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
