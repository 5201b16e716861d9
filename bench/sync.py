"""Captures per second through the sync endpoint, against one multi-row INSERT of the same rows."""

from __future__ import annotations

import json

from django.db import connection
from rest_framework.test import APIClient

from bench.timing import seconds, show
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Person

BATCH = 200


def measure() -> None:
    outing = Outing.objects.get(state=Outing.State.OPEN)
    run = outing.runs.get(ended_at=None)
    client = APIClient()
    client.force_authenticate(Person.objects.get(username="demo-crew"))
    address = f"/api/v1/programmes/{outing.programme_id}/sync"

    def send() -> None:
        operations = [
            {
                "id": str(new_id()),
                "kind": "capture.record",
                "device_time": "2026-10-12T22:00:00Z",
                "row": {"run": str(run.pk), "species": "wal", "length": f"{300 + place}", "mass": f"{250 + 4 * place}"},
            }
            for place in range(BATCH)
        ]
        answer = client.post(address, json.dumps({"operations": operations}), content_type="application/json")
        assert answer.status_code == 200, answer.data

    columns = [field.column for field in Capture._meta.concrete_fields]
    listed = ", ".join(f"`{column}`" for column in columns)
    newest = f"SELECT {listed} FROM deck_capture ORDER BY id DESC LIMIT {BATCH}"

    def insert() -> None:
        with connection.cursor() as cursor:
            cursor.execute(newest)
            rows = [list(row) for row in cursor.fetchall()]
            for row in rows:
                row[columns.index("id")] = new_id().hex
            marks = ", ".join(["(" + ", ".join(["%s"] * len(columns)) + ")"] * len(rows))
            cursor.execute(
                f"INSERT INTO deck_capture ({listed}) VALUES {marks}", [value for row in rows for value in row]
            )

    ours, plain = seconds(send, 9), seconds(insert, 9)
    show(
        f"sync endpoint, {BATCH} captures at once",
        f"{BATCH / ours:,.0f} /s",
        f"plain INSERT {BATCH / plain:,.0f} /s: {ours / plain:.1f} x",
    )
