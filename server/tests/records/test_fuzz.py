"""A small share of bench/fuzz.py's wild requests, in process: every endpoint, every role, every wrong type."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from bench.fuzz import ROLES, Fuzzer, keys_there
from nailwright.programmes.models import Person, Programme
from server.tests.programmes.test_permissions import fish, keys  # noqa: F401 - fixtures

#: Of about 180 endpoints each is asked so often.
SHARE = 450


@pytest.mark.django_db
@pytest.mark.parametrize("seed", [1, 2])
def test_no_wild_request_fails_the_server(
    seed: int,
    keys: dict[str, Any],  # noqa: F811
    programme: Programme,
    person_as: Callable[[str], Person],
) -> None:
    clients = {}
    for role in ROLES:
        client = APIClient(raise_request_exception=False)
        if role != "nobody":
            client.force_authenticate(person_as(role))
        clients[role] = client
    there = {
        **keys_there(),
        "key": [str(keys["selection"])],
        "import_id": [str(keys["import"])],
        "job_id": [str(keys["job"])],
    }
    failed = []
    for each in Fuzzer(seed, there).requests(SHARE):
        answer = clients[each.role].generic(each.method.upper(), each.path, each.body or b"", "application/json")
        for leave in answer._resource_closers:  # as a server does: a streamed answer holds its place until then
            leave()
        if answer.status_code >= 500 and answer.status_code != 503:
            failed.append(f"{each} -> {answer.status_code} {getattr(answer, 'exc_info', None)}"[:900])
    assert not failed, "\n".join(failed[:10])
