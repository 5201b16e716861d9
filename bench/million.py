"""A million captures of five years: 100 outings of 25 runs, 400 fish a run, four species alike."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from django.db import connection

from bench.size import size
from nailwright.common.below_orm import insert_rows
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run
from nailwright.programmes.models import Programme
from nailwright.waters.models import Site

N = size(1_000_000, 20_000)
#: Its 250,000 fish are what the findings are asked about.
SPECIES = "bur"
_OTHERS = ("wal", "yep", "smb")
_YEARS, _OUTINGS, _RUNS = range(2020, 2025), 20, 25
_FISH = N // (len(_YEARS) * _OUTINGS * _RUNS)


def grow(programme: Programme) -> None:
    """Adds the captures, made inside the database; a second call does nothing."""
    if Outing.objects.filter(name="A million").exists():
        return
    runs = _runs(programme)
    kinds = ", ".join(f"'{code}'" for code in (SPECIES, *_OTHERS))
    given: dict[str, str] = {
        "id": "UUID()", "programme_id": f"'{programme.pk}'", "run_id": "run", "recorder_id": "recorder",
        "device_time": "started + INTERVAL seq MOD 1000 SECOND", "server_time": "started + INTERVAL 1 HOUR",
        "species": f"ELT(1 + seq MOD 4, {kinds})", "length_mm": "mm", "length_type": "'TL'", "length_basis": "'measured'",
        "length_text": "CONCAT(mm, '')", "length_unit": "'mm'", "sex": "ELT(1 + seq MOD 3, 'f', 'm', 'u')",
        "mass_g": f"ROUND(POW(10, -5.468 + 3.18 * LOG10(mm) + 0.04 * {_NORMAL}), 1)",
        "mass_basis": "'measured'", "mass_unit": "'g'",
    }  # fmt: skip
    columns = {
        str(field.column): given.get(str(field.column), _default(field.get_default()))
        for field in Capture._meta.concrete_fields
    }
    lengths = f"SELECT seq, GREATEST(90, ROUND(EXP(5.9 + 0.33 * {_NORMAL}))) mm FROM seq_0_to_{N - 1}"
    with connection.cursor() as cursor:
        cursor.execute("CREATE TEMPORARY TABLE a_run (n INT PRIMARY KEY, run UUID, recorder UUID, started DATETIME(6))")
        cursor.executemany(
            "INSERT INTO a_run VALUES (%s, %s, %s, %s)",
            [(n, str(run["id"]), str(run["recorder_id"]), run["started_at"]) for n, run in enumerate(runs)],
        )
        cursor.execute("SET SESSION rand_seed1 = 20240501, rand_seed2 = 7")
        cursor.execute(
            f"INSERT INTO deck_capture ({', '.join(f'`{name}`' for name in columns)}) "
            f"SELECT {', '.join(columns.values())} FROM ({lengths}) fish JOIN a_run ON n = seq DIV {_FISH}"
        )
        cursor.execute("DROP TEMPORARY TABLE a_run")
        cursor.execute("ANALYZE TABLE deck_capture")


#: A normal deviate, made by the database (Box and Muller 1958).
_NORMAL = "SQRT(-2 * LN(1 - RAND())) * COS(2 * PI() * RAND())"


def _runs(programme: Programme) -> list[dict[str, Any]]:
    recorder = Run.objects.first().recorder_id  # type: ignore[union-attr]
    sites = list(Site.objects.filter(water__programme=programme).select_related("water")[:_RUNS])
    made = []
    for place in range(len(_YEARS) * _OUTINGS):
        day = date(_YEARS[place // _OUTINGS], 5, 1) + timedelta(days=7 * (place % _OUTINGS))
        outing = Outing.objects.create(
            programme=programme, water=sites[0].water, name="A million", date=day, gear="boat_electrofishing",
            state=Outing.State.CLOSED,
        )  # fmt: skip
        began = datetime.combine(day, time(20), UTC)
        made += [
            {"id": new_id(), "outing_id": outing.pk, "site_id": sites[n % len(sites)].pk, "number": n + 1,
             "gear": outing.gear, "started_at": began + timedelta(minutes=20 * n), "recorder_id": recorder,
             "device_time": began, "server_time": began}
            for n in range(_RUNS)
        ]  # fmt: skip
    insert_rows(Run, made)
    return made


def _default(value: object) -> str:
    if value is None:
        return "NULL"
    return "'[]'" if value == [] else f"'{value}'"
