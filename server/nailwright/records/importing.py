"""Trying a file, and bringing it in: the same steps, with or without storing. All good lines together, or none."""

from __future__ import annotations

import csv
import gzip
import io
from collections.abc import Collection, Iterable, Iterator
from datetime import datetime
from itertools import islice
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from nailwright.common.rows import new_id
from nailwright.common.sources import open_table
from nailwright.common.spreadsheets import harmless
from nailwright.deck.handling.releases import known_codes, read_leaving
from nailwright.deck.models import Capture, Release
from nailwright.jobs.working import Progress
from nailwright.programmes.models import Change, Person
from nailwright.records.answers import Answers
from nailwright.records.inserting import insert_captures
from nailwright.records.marks import Marks
from nailwright.records.models import Import
from nailwright.records.places import Places
from nailwright.records.reading import REJECT_HEADERS, FileFish, Reader, Reject
from nailwright.tags.models import Placement, Scan
from nailwright_core.common.errors import CoreError

BATCH = 2000
_SHOWN_REJECTS = 200
_SHOWN_WORDS = 40


class Bringing:
    """One pass over a file."""

    def __init__(self, row: Import, answers: Answers, person: Person, store: bool) -> None:
        self._row, self._store, self._person = row, store, person
        self._programme = row.programme
        self._codes = known_codes(self._programme)
        self._table = open_table(row.content())
        if len(answers.columns) != len(self._table.headers):
            raise CoreError("columns_differ", "The answers are for other columns than this file has.", "columns")
        self._reader = Reader(self._programme, self._table.headers, answers)
        self._places = Places(self._programme, person, answers.new_sites)
        self._marks = Marks(self._programme, person, answers.new_marks)
        self._mixed_known = answers.mixed_dates
        self._good = self._there = self._bad = 0
        self._shown: list[Reject] = []
        self._groups: dict[tuple[str, str], dict[str, Any]] = {}
        self._text = io.StringIO()
        self._writer = csv.writer(self._text)
        self._now = timezone.now()

    def run(self, progress: Progress) -> None:
        """Go through the file; the result is written on the import."""
        state = Import.State.IN if self._store else Import.State.TRIED
        with transaction.atomic():
            lines = self._table.lines()
            done = 0
            while batch := list(islice(lines, BATCH)):
                self._take(self._reader.read(*line) for line in batch)
                done += len(batch)
                progress.tell(done, max(self._table.about, done))
            progress.tell(done, done)
            result = self._result(done)
            if self._store:
                if result["asks"]:
                    raise CoreError("dates_mixed", result["asks"][0]["message"], "date_order")
                self._places.store_times()
                self._marks.store_placements()
            self._row.result, self._row.state = result, state
            self._row.rejects = gzip.compress(self._text.getvalue().encode()) if self._bad else None
            self._row.in_at = self._now if self._store else None
            self._row.save(update_fields=["result", "state", "rejects", "in_at"])

    def _take(self, read: Iterable[FileFish | Reject]) -> None:
        lines = list(read)
        fish = [each for each in lines if isinstance(each, FileFish)]
        refused = [each for each in lines if isinstance(each, Reject)]
        captures, releases, restored = [], [], []
        back = self._taken_back(fish)
        touched = self._touched_before(back)
        if self._store:
            _make_room(back - touched.keys())
        there = self._there_already(fish, back)
        self._marks.look_up(fish)
        for each in fish:
            if each.key in there:
                if there[each.key]:
                    self._there += 1
                else:
                    reason = "This key belongs to a fish of another programme."
                    refused.append(Reject(each.line, "capture_id", reason, each.cells))
                continue
            there[each.key] = True  # a key that stands in the file twice is one fish
            if touched.get(each.key):
                self._there += 1  # taken out at the desk, and stays so
                continue
            try:
                self._marks.check(each)
                leaving = self._leaving(each)
                run = self._places.run_for(each)
            except CoreError as error:
                refused.append(self._reader.refusal(each.line, error, each.cells))
                continue
            self._marks.recognise(each)
            if each.key in touched:
                restored.append(each)
                continue
            captures.append((each, run))
            if leaving:
                releases.append(self._release(each, leaving))
        for reject in sorted(refused, key=lambda each: each.line):
            self._refuse(reject)
        self._good += len(captures) + len(restored)
        if self._store:
            self._places.store_new()
            self._marks.store_fish()
            insert_captures(self._row, self._person, self._now, captures)
            Release.objects.bulk_create(releases)
            for each in restored:
                again = {"deleted_at": None, "brought_in_id": self._row.pk, "fish_id": each.values.get("fish_id")}
                Capture.objects.filter(pk=each.key).update(**again)
                Scan.objects.filter(source_id=each.key).delete()
            self._marks.store_scans([each for each, _ in captures] + restored)

    def _taken_back(self, fish: list[FileFish]) -> set[UUID]:
        """Keys that were taken back with an earlier file: these make room."""
        files = self._programme.imports.exclude(state=Import.State.IN).values("pk")  # tried again since, or not
        back = Capture.objects.filter(
            pk__in=[each.key for each in fish], brought_in_id__in=files, programme=self._programme,
            deleted_at__isnull=False,
        )  # fmt: skip
        return set(back.values_list("pk", flat=True))

    def _touched_before(self, back: set[UUID]) -> dict[UUID, bool]:
        """Of fish that were taken back: those that somebody had changed, and whether by taking them out.

        A correction is worth more than the file's line: such a fish comes back as it stood.
        """
        if not back:
            return {}
        changes = Change.objects.filter(table="capture", row__in=back).order_by("server_time")
        touched: dict[UUID, bool] = {}
        for row, after in changes.values_list("row", "after"):
            touched[row] = bool(after["deleted_at"]) if "deleted_at" in after else touched.get(row, False)
        return touched

    def _there_already(self, fish: list[FileFish], back: set[UUID]) -> dict[UUID, bool]:
        """Keys that are in the record, and whether in this programme; without those that were taken back."""
        rows = Capture.objects.filter(pk__in=[each.key for each in fish])
        return {
            key: programme == self._programme.pk
            for key, programme in rows.values_list("pk", "programme_id")
            if key not in back
        }

    def _leaving(self, fish: FileFish) -> dict[str, Any] | None:
        """How the fish of a line left; None where the line does not say.

        Raises:
            CoreError: ``release_unknown``, ``fate_missing``, ``fate_does_not_fit``.
        """
        names = (
            ("left_as", "code"),
            ("strength", "strength"),
            ("release_reason", "reason"),
            ("taken_to", "taken_to"),
            ("left_word", "word"),
        )
        row = {field: fish.given[key] for key, field in names if fish.given.get(key)}
        leaving = read_leaving(row, self._codes) if row else None
        return leaving.over(None) if leaving else None

    def _release(self, fish: FileFish, leaving: dict[str, Any]) -> Release:
        return Release(
            id=new_id(),
            capture_id=fish.key,
            recorder=self._person,
            device_time=fish.at,
            server_time=self._now,
            **leaving,
        )

    def _refuse(self, reject: Reject) -> None:
        if not self._bad:
            own = [header for header in self._table.headers if header not in REJECT_HEADERS]
            self._writer.writerow([*REJECT_HEADERS, *own])
        self._bad += 1
        if len(self._shown) < _SHOWN_REJECTS:
            self._shown.append(reject)
        group = self._groups.setdefault((reject.code, reject.column), {"n": 0, "reason": reject.reason, "cells": {}})
        group["n"] += 1
        if reject.cell and len(group["cells"]) < _SHOWN_WORDS:
            group["cells"][reject.cell[:40]] = None
        cells = [
            cell
            for header, cell in zip(self._table.headers, reject.cells, strict=False)
            if header not in REJECT_HEADERS
        ]
        extra = reject.cells[len(self._table.headers) :]
        row = [reject.line, reject.column, reject.reason, *cells, *extra]
        self._writer.writerow([harmless(cell) for cell in row])

    def _result(self, lines: int) -> dict[str, Any]:
        return {
            "lines": lines,
            "good": self._good,
            "there": self._there,
            "bad": self._bad,
            "new": self._places.counts | {"fish": self._marks.n_new},
            "rejects": [{"line": each.line, "column": each.column, "reason": each.reason} for each in self._shown],
            "groups": [
                {"code": code, "column": column, **group, "cells": list(group["cells"])}
                for (code, column), group in sorted(self._groups.items(), key=lambda each: -each[1]["n"])
            ],
            "unknown": {
                key: [
                    {"word": word, "n": n}
                    for word, n in sorted(words.items(), key=lambda item: -item[1])[:_SHOWN_WORDS]
                ]
                for key, words in self._reader.unknown.items()
            },
            "asks": list(self._asks()),
        }

    def _asks(self) -> Iterator[dict[str, str]]:
        day, month = self._reader.day_first, self._reader.month_first
        if day and month and not self._mixed_known:
            yield {
                "field": "date_order",
                "message": f"{day} of the file's different dates can only be day first and {month} only month first. "
                "Say which order holds; the lines of the other order then stay in the reject file.",
            }


def _make_room(keys: Collection[UUID]) -> None:
    """Captures that were taken back go, with what was read on them, before the file's lines bring them again."""
    Scan.objects.filter(source_id__in=keys).delete()
    Placement.objects.filter(capture_id__in=keys, living_tag=None).delete()
    Capture.objects.filter(pk__in=keys).delete()


def take_back(row: Import, at: datetime) -> int:
    """Mark everything that this file brought as taken out. Returns how many fish."""
    with transaction.atomic():
        Marks.withdraw(row, at)
        n = Capture.present.filter(brought_in_id=row.pk).update(deleted_at=at)
        row.state = Import.State.BACK
        row.save(update_fields=["state"])
    return n
