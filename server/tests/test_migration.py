"""A database made by version 0.1 is migrated, and what was recorded in it is there as it was.

``data/record_0_1.sql`` was dumped from an installation of that version: an outing in inches with fish, marks, a release, a
correction and a delete, a survey with zones and sites, and a file that was brought in.
"""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import MySQLdb
import pytest
from django.conf import settings

DUMP = Path(__file__).parent / "data" / "record_0_1.sql"
ROOT = Path(__file__).parents[2]
NAME = "nailwright_from_0_1"


@pytest.fixture(scope="module")
def database() -> Iterator[MySQLdb.cursors.Cursor]:
    server = settings.DATABASES["default"]
    told = {"host": server["HOST"], "port": int(server["PORT"]), "user": server["USER"], "passwd": server["PASSWORD"]}
    connection = MySQLdb.connect(**told, charset="utf8mb4", autocommit=True)
    cursor = connection.cursor()
    cursor.execute(f"DROP DATABASE IF EXISTS {NAME}")
    cursor.execute(f"CREATE DATABASE {NAME} CHARACTER SET utf8mb4")
    client = ["mariadb", "--no-defaults", "-h", told["host"], "-P", str(told["port"]), "-u", told["user"], NAME]
    with DUMP.open("rb") as dump:
        subprocess.run(client, stdin=dump, check=True, env={**os.environ, "MYSQL_PWD": told["passwd"]})
    cursor.execute(f"USE {NAME}")
    yield cursor
    cursor.execute(f"DROP DATABASE {NAME}")
    connection.close()


def rows(cursor: MySQLdb.cursors.Cursor, query: str) -> list[tuple[object, ...]]:
    cursor.execute(query)
    return list(cursor.fetchall())


CAPTURES = """SELECT id, run_id, species, count, length_mm, length_type, length_basis, length_text, mass_g, mass_basis, mass_text,
    sex, sex_evidence, fish_id, scanned, note, questions, recorder_id, brought_in_id, device_time, server_time, deleted_at
    FROM deck_capture ORDER BY id"""
SAME = {
    "deck_run": """SELECT id, outing_id, site_id, number, gear, volts, amps, pulse_hz, pulse_width_ms, current_on_s, started_at,
        ended_at, recorder_id, device_time, server_time, deleted_at FROM deck_run ORDER BY id""",
    "deck_release": "SELECT id, device_time, server_time, deleted_at, capture_id, recorder_id FROM deck_release ORDER BY id",
    "deck_outing": """SELECT id, name, date, gear, state, length_unit, mass_unit, server_time, programme_id, water_id, checklists, orders
        FROM deck_outing ORDER BY id""",
    "deck_signature": "SELECT * FROM deck_signature ORDER BY id",
    "deck_capture": CAPTURES,
    "plan_survey": """SELECT id, programme_id, water_id, name, question, species, gear, first, last, visits, effort_s, revisit_years,
        parts, person_id, made_at, deleted_at FROM plan_survey ORDER BY id""",
    "plan_plannedsite": "SELECT id, number, start_m, end_m, moved, site_id, survey_id FROM plan_plannedsite ORDER BY id",
    "records_import": "SELECT * FROM records_import ORDER BY id",
    "placements": "SELECT id, tag_id, fish_id, capture_id, living_tag, device_time, deleted_at FROM tags_placement ORDER BY id",
    "tags": "SELECT id, kind, number, state FROM tags_tag ORDER BY id",
    "changes": "SELECT id, `table`, `row`, `before`, `after`, reason FROM programmes_change ORDER BY id",
}
MOVED = {
    "SELECT id, name, kind, geometry FROM {} ORDER BY id": ("programmes_water", "waters_water"),
    "SELECT id, water_id, name, river_km, geometry FROM {} ORDER BY id": ("programmes_site", "waters_site"),
    "SELECT id, water_id, kind, name, start_m, end_m, note FROM {} ORDER BY id": ("plan_zone", "waters_zone"),
}


def test_what_was_recorded_is_there_as_it_was(database: MySQLdb.cursors.Cursor) -> None:
    before = {name: rows(database, query) for name, query in SAME.items()}
    moved = {query: rows(database, query.format(old)) for query, (old, _) in MOVED.items()}
    marks = rows(database, "SELECT id, scan_text FROM deck_capture WHERE scan_text <> '' ORDER BY id")
    batches = rows(database, "SELECT id, batch FROM tags_tag WHERE batch <> '' ORDER BY id")
    assert len(before["deck_capture"]) == 8 and len(marks) == 4 and len(batches) == 6
    subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "migrate", "--verbosity", "0"],
        check=True,
        env={**os.environ, "NAILWRIGHT_DB_NAME": NAME},
    )
    for name, query in SAME.items():
        assert rows(database, query) == before[name], name
    for query, (_, new) in MOVED.items():
        # of zones that sites only named there is one more now (test_migration_from_0_9)
        assert [row for row in rows(database, query.format(new)) if row in moved[query]] == moved[query], new
    # "alive" has become a fate, and the word is kept beside it; nobody had said how strongly
    left = rows(database, "SELECT DISTINCT fate, strength, word FROM deck_release")
    assert left == [("released", None, "alive")]
    read = rows(database, "SELECT source_id, CONCAT(kind, ' ', number) FROM tags_scan ORDER BY source_id")
    assert read == marks
    named = "SELECT t.id, b.name FROM tags_tag t JOIN tags_tagbatch b ON b.id = t.batch_id ORDER BY t.id"
    assert rows(database, named) == batches
    units = dict(rows(database, "SELECT length_text, length_unit FROM deck_capture WHERE length_text <> ''"))
    assert units == {
        "18 1/2": "in", "~469 mm": "mm", "17 1/4": "in", "18 3/4": "in", "12": "in", "431 mm": "mm", "440 mm": "mm",
    }  # fmt: skip
    met = "SELECT source_id, fish_id FROM tags_encounter ORDER BY source_id"
    known = "SELECT id, fish_id FROM deck_capture WHERE fish_id IS NOT NULL AND deleted_at IS NULL ORDER BY id"
    assert rows(database, met) == rows(database, known) != []
    # what a tablet sent before is answered as done when it comes again
    receipts = {key for (key,) in rows(database, "SELECT id FROM programmes_receipt")}
    assert {row[0] for row in before["deck_capture"] if row[18] is None} <= receipts
    assert {row[0] for row in before["changes"]} <= receipts
