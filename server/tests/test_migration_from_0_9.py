"""A database made by version 0.9 is migrated, and what was recorded in it is there as it was, to the last column.

``data/record_0_9.sql.gz`` was dumped from an installation of that version: a programme with three outings of its demo, fish with
marks, events, a survey, a kept finding and protocols.
"""

from __future__ import annotations

import gzip
import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import MySQLdb
import pytest
from django.conf import settings

DUMP = Path(__file__).parent / "data" / "record_0_9.sql.gz"
ROOT = Path(__file__).parents[2]
NAME = "nailwright_from_0_9"
#: Django's own tables, and what the database can make again by itself.
NOT_RECORDED = ("django_", "auth_", "deck_capturetally", "findings_findinganswer", "axes_")
#: Tables and columns that have another name or another form since; each with where to.
RENAMED = {
    "plan_paper": "permits_permit", "deck_allowance": "permits_allowance", "findings_keptfinding": "findings_savedfinding",
    "findings_keptfinding.rows_mark": "fingerprint", "findings_keptfinding.keeper_id": "saved_by_id",
    "findings_keptfinding.kept_at": "saved_at", "deck_event.said": "details",
}  # fmt: skip
#: Tables to which the migration adds rows that were only named before.
MADE_MORE = {"plan_paper", "waters_zone"}
#: Columns of 0.9 that are gone, each with the test that says what became of them.
GONE = {
    "deck_allowance": {"permit", "programme_id"}, "plan_paper": {"kind"}, "waters_site": {"reach"}, "deck_target": {"reach"},
    "plan_plannedsite": {"zone"}, "findings_keptfinding": {"query"},
}  # fmt: skip


@pytest.fixture(scope="module")
def database() -> Iterator[MySQLdb.cursors.Cursor]:
    server = settings.DATABASES["default"]
    told = {"host": server["HOST"], "port": int(server["PORT"]), "user": server["USER"], "passwd": server["PASSWORD"]}
    connection = MySQLdb.connect(**told, charset="utf8mb4", autocommit=True)
    cursor = connection.cursor()
    cursor.execute(f"DROP DATABASE IF EXISTS {NAME}")
    cursor.execute(f"CREATE DATABASE {NAME} CHARACTER SET utf8mb4")
    client = ["mariadb", "--no-defaults", "-h", told["host"], "-P", str(told["port"]), "-u", told["user"], NAME]
    subprocess.run(
        client, input=gzip.decompress(DUMP.read_bytes()), check=True, env={**os.environ, "MYSQL_PWD": told["passwd"]}
    )
    cursor.execute(f"USE {NAME}")
    cursor.execute(
        "UPDATE deck_target SET reach = 'lower River' WHERE species = 'nop'"
    )  # as somebody may have typed it
    yield cursor
    cursor.execute(f"DROP DATABASE {NAME}")
    connection.close()


def manage(*words: str) -> str:
    """Run a command of the project on the migrated database."""
    done = subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), *words],
        check=True, capture_output=True, text=True, env={**os.environ, "NAILWRIGHT_DB_NAME": NAME},
    )  # fmt: skip
    return done.stdout


def columns(cursor: MySQLdb.cursors.Cursor) -> dict[str, list[str]]:
    """Columns of every table that holds a record."""
    cursor.execute(
        "SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = %s ORDER BY 1, 2", [NAME]
    )
    found: dict[str, list[str]] = {}
    for table, column in cursor.fetchall():
        if not table.startswith(NOT_RECORDED):
            found.setdefault(table, []).append(column)
    return found


def content(cursor: MySQLdb.cursors.Cursor, table: str, names: list[str]) -> list[tuple[object, ...]]:
    listed = ", ".join(f"`{name}`" for name in names)
    cursor.execute(f"SELECT {listed} FROM `{table}`")
    return sorted(cursor.fetchall(), key=repr)


def test_every_row_and_column_is_there_as_it_was(database: MySQLdb.cursors.Cursor) -> None:
    kept = {
        table: [name for name in names if name not in GONE.get(table, ())] for table, names in columns(database).items()
    }
    before = {table: content(database, table, names) for table, names in kept.items()}
    assert len(before["deck_capture"]) == 504 and len(before["tags_encounter"]) == 87
    manage("migrate", "--verbosity", "0")
    now = columns(database)
    for table, names in kept.items():
        new = RENAMED.get(table, table)
        renamed = [RENAMED.get(f"{table}.{name}", name) for name in names]
        assert set(renamed) <= set(now[new]), table
        after = content(database, new, renamed)
        if table in MADE_MORE:
            after = [row for row in after if row in before[table]]
        assert after == before[table], table


def test_what_is_new_is_true_of_what_was_there(database: MySQLdb.cursors.Cursor) -> None:
    """Encounters say how each meeting ended, and each run is an occasion: made again from the record, none of it changes."""
    assert "are true" in manage("rebuild_encounters")
    assert "are true" in manage("rebuild_handling")
    database.execute(
        "SELECT COUNT(*) > 0, COUNT(*) = (SELECT COUNT(DISTINCT capture_id) FROM deck_event) FROM deck_handling"
    )
    assert database.fetchone() == (1, 1)
    database.execute("SELECT disposition, COUNT(*), COUNT(let_go_at) FROM tags_encounter GROUP BY 1 ORDER BY 1")
    told = {disposition: (n, let_go) for disposition, n, let_go in database.fetchall()}
    assert told["released"][0] == told["released"][1] > 50
    database.execute("SELECT (SELECT COUNT(*) FROM tags_occasion), (SELECT COUNT(*) FROM deck_run)")
    assert database.fetchone() == (12, 12)


def test_what_was_named_is_pointed_at(database: MySQLdb.cursors.Cursor) -> None:
    """Allowances point at their permit, sites, targets and planned sites at their zone, by the names that stood there."""

    def told(query: str) -> list[tuple[object, ...]]:
        database.execute(query)
        return list(database.fetchall())

    permits = told("SELECT kind, name, first, last FROM permits_permit ORDER BY name")
    assert [(kind, name) for kind, name, *_ in permits] == [
        ("permit", "Animal care protocol"), ("permit", "Collecting permit 17"), ("permit", "Collecting permit, Ossling basin"),
        ("certificate", "Electrofishing crew leader"), ("certificate", "First aid and CPR"),
    ]  # fmt: skip
    allowed = told(
        "SELECT DISTINCT p.name, MIN(a.first) = p.first, MAX(a.last) = p.last FROM permits_allowance a JOIN permits_permit p ON p.id = a.permit_id"
    )
    assert allowed == [("Collecting permit 17", 1, 1)]
    zones = told(
        "SELECT w.name, z.name, COUNT(*), z.start_m IS NULL FROM waters_site s JOIN waters_zone z ON z.id = s.zone_id "
        "JOIN waters_water w ON w.id = s.water_id AND w.id = z.water_id GROUP BY 1, 2, 4 ORDER BY 1, 2"
    )
    assert ("Ketterwick River", "Lower river") in [row[:2] for row in zones]
    drawn = {row[1]: row[3] for row in zones}
    assert (
        drawn["Lower river"] == 0 and sum(drawn.values()) == len(drawn) - 2
    )  # two of the river are drawn, lakes have names only
    assert told("SELECT COUNT(*) FROM waters_site WHERE zone_id IS NULL") == [(0,)]
    targets = told("SELECT t.species, z.name FROM deck_target t JOIN waters_zone z ON z.id = t.zone_id")
    assert targets == [("nop", "Lower river")]
    queries = [text for (text,) in told("SELECT query FROM findings_savedfinding")]
    assert any('"zone"' in text for text in queries) and not any('"reach"' in text for text in queries)
