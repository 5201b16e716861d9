"""Whatever comes, no request fails the server: every field of every endpoint with what no sane client sends.

The browser tests send made-up requests from the schema over a socket; this sends the values that have once done harm.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest
import yaml
from rest_framework.test import APIClient

from bench.size import some
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Change, Person, Programme, WrongPassword
from nailwright.returns.models import PublicPage, PublicTry
from nailwright.waters.models import Site
from server.tests.programmes.test_permissions import ENDPOINTS, OPEN, OWN, fish, keys, request_of  # noqa: F401 - fixtures

SCHEMA = yaml.safe_load((Path(__file__).resolve().parents[1] / "openapi.yaml").read_text())
HALF = "wal\ud83d"  # half an emoji, as a careless backspace leaves it
NO_UUID_OF_MARIADB = "017e4337-3a80-8fff-04aa-000000000001"
WILD: tuple[Any, ...] = (
    HALF, "\x00", "x" * 100_000, NO_UUID_OF_MARIADB, 2**62, -1, 1e308, -1e308, 1e-320, "1e400", "nan",
    "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "0001-01-01", "9999-12-31", None, True, [], {}, [[HALF]],
    {HALF: HALF},
)  # fmt: skip
#: The same where an address says it.
WILD_WORDS: tuple[Any, ...] = (
    "1e-320", "1e308", "1e400", "nan", "-1", "", "\x00", "\ud83d".encode("utf-16", "surrogatepass"), "9" * 400, "0001-01-01",
    "9999-12-31", NO_UUID_OF_MARIADB, "x" * 5000,
)  # fmt: skip
#: Bodies that are wild as a whole.
RAW = (
    b"\xff\xfe", b"", b"null", b"[]", b'"x"', b"{", b'{"a": 1' + b"0" * 400 + b"}", b'{"a": 1e400}', b'{"a": NaN}',
    b"[" * 100_000, b'{"a":' * 100_000 + b"1" + b"}" * 100_000, b'{"operations": ' + b"[" * 60 + b"]" * 60 + b"}",
    b'{"\\ud83d": "\\ud83d", "id": "\\ud83d"}',
)  # fmt: skip


@pytest.fixture
def wild(client_as: Any) -> APIClient:
    """A lead whose client shows a failure as an answer, as a real server does."""
    client = client_as("lead")
    client.raise_request_exception = False
    return client


def sample(shape: dict[str, Any]) -> Any:
    """A plain value of a schema's shape."""
    if "$ref" in shape:
        return sample(SCHEMA["components"]["schemas"][shape["$ref"].rsplit("/", 1)[-1]])
    if "allOf" in shape or "oneOf" in shape:
        return sample((shape.get("allOf") or shape.get("oneOf"))[0])
    if "enum" in shape:
        return shape["enum"][0]
    match shape.get("type"):
        case "object":
            return {name: sample(each) for name, each in shape.get("properties", {}).items()}
        case "array":
            return [sample(shape["items"])]
        case "integer":
            return int(shape.get("minimum", 1))
        case "number":
            return float(shape.get("minimum", 1))
        case "boolean":
            return False
    return {"uuid": str(new_id()), "date": "2026-05-02", "date-time": "2026-05-02T20:00:00Z"}.get(shape.get("format", ""), "x")  # fmt: skip


def in_schema(address: str) -> str:
    return (
        address.replace("}", "_id}")
        .replace("{selection_id}", "{key}")
        .replace("{code_id}", "{code}")
        .replace("tbar/W1001", "{kind}/{number}")
    )


def spoiled(body: Any, of: str, depth: int = 0) -> Iterator[Any]:
    """The body with one thing in it replaced by wild values."""
    if not isinstance(body, dict | list) or depth > 5:
        return
    for place in list(body) if isinstance(body, dict) else range(len(body)):
        for value in some(WILD, 3, f"{of} {place} {depth}"):
            copy = deepcopy(body)
            copy[place] = value
            yield copy
        for inner in spoiled(body[place], of, depth + 1):
            copy = deepcopy(body)
            copy[place] = inner
            yield copy


def send(client: APIClient, method: str, address: str, body: Any) -> Any:
    return getattr(client, method)(address, json.dumps(body), content_type="application/json")


def must_answer(response: Any, what: Any) -> None:
    for leave in response._resource_closers:  # as a server does: a streamed answer holds its place until then
        leave()
    assert response.status_code < 500, (
        f"{response.status_code} after {what!r:.300}: {getattr(response, 'exc_info', None)}"
    )
    if response.status_code == 422:
        assert set(response.json()) >= {"code", "message", "field"}
        json.dumps(response.json(), ensure_ascii=False).encode()  # no half character comes back


@pytest.mark.parametrize(
    ("method", "address", "body"), [each[:3] for each in ENDPOINTS if each[0] == "post"], ids=lambda each: str(each)
)
def test_bodies(wild: APIClient, keys: Any, outing: Outing, method: str, address: str, body: str) -> None:  # noqa: F811
    to = address.format(**keys)
    for raw in RAW:
        must_answer(wild.post(to, raw, content_type="application/json"), raw)
    shapes = SCHEMA["paths"][in_schema(address)]["post"].get("requestBody", {}).get("content", {})
    if "application/json" not in shapes:
        many = {f"field{n}": "x" for n in range(2100)}
        must_answer(wild.post(to, many, format="multipart"), "many fields")
        return
    for plain in (request_of(body, outing), sample(shapes["application/json"]["schema"])):
        for each in spoiled(plain, address):
            must_answer(send(wild, method, to, each), each)


def test_keys_that_something_else_has(wild: APIClient, keys: Any, outing: Outing) -> None:  # noqa: F811
    """The client makes keys: one that is a site's, a change's or a capture's already is refused in words, and nothing is altered."""
    site = Site.objects.create(water=outing.water, name="Key of another")
    change = Change.objects.create(
        programme=outing.programme,
        table="site",
        row=site.pk,
        person=Person.objects.earliest("date_joined"),
        before={},
        after={},
    )
    used = {type(row): row.pk for row in (site, change, Capture.objects.get(pk=keys["capture"]))}
    before = {model: model._default_manager.filter(pk=key).values().get() for model, key in used.items()}
    details = set()
    for method, address, body, *_ in ENDPOINTS:
        if method != "post":
            continue
        shapes = SCHEMA["paths"][in_schema(address)]["post"].get("requestBody", {}).get("content", {})
        if "application/json" not in shapes:
            continue
        plain = {**sample(shapes["application/json"]["schema"]), **request_of(body, outing)}
        if "id" in plain:
            for key in used.values():
                answer = send(wild, method, address.format(**keys), {**plain, "id": str(key)})
                must_answer(answer, (address, key))
                details.add(answer.status_code)
    assert 409 in details
    assert before == {model: model._default_manager.filter(pk=key).values().get() for model, key in used.items()}


@pytest.mark.parametrize("route", sorted((OPEN | OWN) - {"tokens/{token}"}))
def test_bodies_about_oneself_and_of_those_outside(wild: APIClient, programme: Programme, route: str) -> None:
    PublicPage.objects.create(programme=programme, address="tarn", open=True, telephone="555")
    route = re.sub(r"<\w+:(\w+)>", r"{\1}", route)
    operations = SCHEMA["paths"][f"/api/v1/{route}"]
    route = route.format(address="tarn", link="made.up", form="svg", token=new_id())
    for method, operation in operations.items():
        shapes = operation.get("requestBody", {}).get("content", {})
        if "application/json" not in shapes:
            continue
        plain = sample(shapes["application/json"]["schema"])
        for client in (wild, APIClient(raise_request_exception=False)):
            for raw in RAW:
                must_answer(
                    client.generic(method.upper(), f"/api/v1/{route}", raw, content_type="application/json"), raw
                )
            for each in spoiled(plain, route):
                WrongPassword.objects.all().delete()  # else only the first forty are tried
                PublicTry.objects.all().delete()
                must_answer(send(client, method, f"/api/v1/{route}", each), each)


def test_addresses(wild: APIClient, keys: Any) -> None:  # noqa: F811
    for method, address, _, _ in ENDPOINTS:
        odd = address.format(**dict.fromkeys(keys, NO_UUID_OF_MARIADB))
        must_answer(wild.generic(method.upper(), odd, "{}", content_type="application/json"), odd)
        if method == "get":
            path = address.split("?")[0]
            asked = SCHEMA["paths"][in_schema(path)]["get"].get("parameters", [])
            for name in [each["name"] for each in asked if each["in"] == "query"]:
                for value in some(WILD_WORDS, 3, f"{path} {name}"):
                    query = {"species": "wal", "k": "2", "by": "year", name: value}
                    must_answer(wild.get(path.format(**keys), query), (path, query))
