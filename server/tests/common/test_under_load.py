"""What is told and written down where something fails, is too much, or does not answer."""

from __future__ import annotations

import json
import logging
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import MySQLdb
import pytest
from django.conf import settings
from django.db import OperationalError
from django.test import Client
from pythonjsonlogger.json import JsonFormatter
from rest_framework.test import APIClient

from nailwright.common import database
from nailwright.common.request_log import InRequest
from nailwright.deck.models import Outing
from nailwright.findings import api as findings_api
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.places import EVERYWHERE

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def database_is_there() -> Iterator[None]:
    yield
    database._rests_until = 0.0


@pytest.fixture
def log() -> Iterator[list[logging.LogRecord]]:
    """What reaches the log, each line with its request's number."""
    lines: list[logging.LogRecord] = []

    class Kept(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            lines.append(record)

    handler = Kept()
    handler.addFilter(InRequest())
    logging.getLogger().addHandler(handler)
    yield lines
    logging.getLogger().removeHandler(handler)


def test_every_request_has_a_line(client_as: Callable[[str], APIClient], programme: Programme, log: Any) -> None:
    client = client_as("crew")
    answer = client.get(f"/api/v1/programmes/{programme.pk}/outings")
    (line,) = [each for each in log if each.name == "nailwright.requests"]
    assert (line.method, line.status, line.request_id) == ("GET", 200, answer["X-Request-ID"])
    assert line.person == str(Person.objects.get().pk) and line.ms > 0
    ours = next(each.formatter for each in logging.getLogger().handlers if isinstance(each.formatter, JsonFormatter))
    told = json.loads(ours.format(line))
    assert told["request_id"] == answer["X-Request-ID"] and told["path"].endswith("/outings") and told["at"]


def test_a_failure_is_told_with_its_number_and_leaves_its_traceback(
    client_as: Callable[[str], APIClient], programme: Programme, log: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: Any) -> None:
        raise RuntimeError("a fault of ours")

    monkeypatch.setattr(findings_api, "selection_options", broken)
    client = client_as("lead")
    client.raise_request_exception = False
    answer = client.get(f"/api/v1/programmes/{programme.pk}/selection-options")
    assert answer.status_code == 500 and answer.json()["code"] == "server_failed"
    number = answer["X-Request-ID"]
    assert number in answer.json()["message"]
    (line,) = [each for each in log if each.exc_info]
    assert line.request_id == number and "a fault of ours" in str(line.exc_info[1])


def test_a_database_that_does_not_answer_is_told_and_let_alone(
    client_as: Callable[[str], APIClient], programme: Programme, monkeypatch: pytest.MonkeyPatch
) -> None:
    client = client_as("lead")
    address = f"/api/v1/programmes/{programme.pk}/selection-options"
    asked: list[int] = []

    def gone(*_: Any) -> None:
        asked.append(1)
        raise OperationalError(2013, "Lost connection to server during query")

    with monkeypatch.context() as patched:
        patched.setattr(findings_api, "selection_options", gone)
        for _ in range(5):
            answer = client.get(address)
            assert (answer.status_code, answer.json()["code"], answer["Retry-After"]) == (503, "not_now", "5")
        assert len(asked) == 1  # nobody else waited for it
        assert Client().get("/").status_code in (200, 503)  # the screens need no database; 503 where they are not built
        if settings.WHITENOISE_ROOT:
            assert Client().get("/").status_code == 200
    database._rests_until = time.monotonic() - 1
    assert client.get(address).status_code == 200  # one that tried found it again
    assert client.get(address).status_code == 200


def test_a_deadlock_is_no_reason_to_let_the_database_alone() -> None:
    assert database.note_failure(OperationalError(1213, "Deadlock found")) and not database._rests_until
    assert not database.note_failure(ValueError())


def test_a_frozen_database_is_noticed_in_time() -> None:
    """The driver gives up on a MariaDB that is stopped in the middle of its work."""
    server = settings.DATABASES["default"]
    connection = MySQLdb.connect(
        host=server["HOST"], port=int(server["PORT"]), user=server["USER"], password=server["PASSWORD"], read_timeout=1
    )
    began = time.monotonic()
    with pytest.raises(MySQLdb.OperationalError) as lost:
        connection.cursor().execute("SELECT SLEEP(20)")
    assert time.monotonic() - began < 10
    assert lost.value.args[0] in database._GONE


def test_readers_leave_room(
    client_as: Callable[[str], APIClient], programme: Programme, outing: Outing, monkeypatch: pytest.MonkeyPatch,
    settings: Any,
) -> None:  # fmt: skip
    """With every heavy place taken a further reader is asked to come again, and the tablet's reads go on."""
    settings.HEAVY_AT_ONCE, settings.HEAVY_WAITING, settings.HEAVY_WAIT_S = 1, 1, 0.2
    inside, leave = threading.Event(), threading.Event()

    def slow(*_: Any) -> list[Any]:
        inside.set()
        assert leave.wait(20)
        return []

    monkeypatch.setattr(findings_api, "saved_of", slow)
    monkeypatch.setattr(findings_api, "programme_for", lambda *_: programme)  # no database in the thread
    monkeypatch.setattr(findings_api, "places_of", lambda *_: EVERYWHERE)
    address = f"/api/v1/programmes/{programme.pk}/saved-findings"
    client = client_as("lead")  # made once: one process, one room

    first = threading.Thread(target=lambda: client.get(address))
    first.start()
    assert inside.wait(20)
    busy = client.get(address)
    assert (busy.status_code, busy.json()["code"], busy["Retry-After"]) == (503, "busy", "1")
    assert client.get(f"/api/v1/outings/{outing.pk}/deck").status_code == 200
    leave.set()
    first.join()
    assert client.get(address).status_code == 200
