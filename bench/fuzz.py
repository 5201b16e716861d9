"""50,000 requests that no sane client sends: every endpoint, every role, every wrong type, over real sockets. None may fail the server.

The requests are made from the API's own schema by a seeded generator, which a test asks for a small share of.
"""

from __future__ import annotations

import json
import os
import random
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from copy import deepcopy
from dataclasses import dataclass
from itertools import count
from pathlib import Path
from time import perf_counter
from typing import Any
from urllib.parse import quote

import requests
import yaml

from bench.server import Server
from bench.size import size
from bench.timing import show

#: A quarter of an hour; NAILWRIGHT_FUZZ_REQUESTS says fewer.
REQUESTS = int(os.environ.get("NAILWRIGHT_FUZZ_REQUESTS") or size(50_000, 200))
ROLES = ("lead", "biologist", "crew", "volunteer", "viewer", "nobody")
LOG = Path(__file__).resolve().parents[1] / "var" / "fuzz.log"
HALF = "wal\ud83d"  # half an emoji, as a careless backspace leaves it
WILD: tuple[Any, ...] = (
    HALF, "\x00", "x" * 20_000, "017e4337-3a80-8fff-04aa-000000000001", 2**62, -1, 0, 1e308, 1e-320, "1e400", "nan", "", " ", "=1+1",
    "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "0001-01-01", "2028-02-30", None, True, [], {}, [[HALF]], {HALF: 1}, [None],
    "<script>alert(1)</script>", "../../etc/passwd", "%00", "'; DROP TABLE deck_capture; --", {"a": {"a": {"a": {}}}}, "\u202e", "\uff1d1",
)  # fmt: skip
#: Endpoints that end the very sign-in under which the others are sent, or that wait for a file.
SPARED = ("/account/forget", "/session", "/account/password")
#: Their work is a second each and the same whatever is asked: each tenth time.
LABOURED = (".pdf", ".zip")


@dataclass(frozen=True)
class Wild:
    """One request: who asks, how, where, with what."""

    role: str
    method: str
    endpoint: str
    path: str
    body: bytes | None


class Fuzzer:
    """Makes requests from the schema; ``keys`` are those of rows that are there, by the name that stands in an address."""

    def __init__(self, seed: int, keys: Mapping[str, list[str]]) -> None:
        self.random = random.Random(seed)
        self._keys = keys
        text = (Path(__file__).resolve().parents[1] / "server" / "openapi.yaml").read_text()
        self._schema = yaml.load(text, getattr(yaml, "CSafeLoader", yaml.SafeLoader))
        self._endpoints = [
            (path, method, told)
            for path, methods in self._schema["paths"].items()
            for method, told in methods.items()
            if method in ("get", "post", "delete") and not path.endswith(SPARED)
        ]

    def requests(self, n: int) -> Iterator[Wild]:
        """So many of them; each endpoint about as often, but those that set pages or pack files."""
        given = 0
        for place in count():
            if given == n:
                return
            turn, which = divmod(place, len(self._endpoints))
            path, method, told = self._endpoints[which]
            if path.endswith(LABOURED) and turn % 10:
                continue
            given += 1
            yield Wild(self.random.choice(ROLES), method, path, self._filled(path, told), self._body(told))

    def _filled(self, path: str, told: dict[str, Any]) -> str:
        for name in [part.split("}")[0] for part in path.split("{")[1:]]:
            key = self._of(name) if self.random.random() < 0.9 else str(self.random.choice(WILD))
            path = path.replace(f"{{{name}}}", quote(key[:200].encode("utf-8", "replace"), safe=""))
        query: list[str] = []
        for each in told.get("parameters", ()):
            if each["in"] == "query" and self.random.random() < 0.5:
                value = (
                    self.random.choice(WILD)
                    if self.random.random() < 0.4
                    else self._sample(each["schema"], each["name"])
                )
                for one in value if isinstance(value, list) else [value]:
                    query.append(f"{each['name']}={quote(str(one)[:300].encode('utf-8', 'replace'), safe='')}")
        return f"{path}?{'&'.join(query)}" if query else path

    def _of(self, name: str) -> str:
        return self.random.choice(self._keys.get(name) or ["01900000-0000-7000-8000-000000000001"])

    def _body(self, told: dict[str, Any]) -> bytes | None:
        content = told.get("requestBody", {}).get("content", {})
        if "application/json" not in content:
            return None
        value = self._sample(content["application/json"]["schema"], "")
        for _ in range(self.random.choice((0, 1, 1, 2))):
            value = self._spoiled(value)
        if self.random.random() < 0.03:
            return self.random.choice((b"\xff\xfe", b"", b"null", b"[", b"[" * 50_000, b'{"a": 1e400}', b'{"a": NaN}'))
        return json.dumps(value).encode()

    def _spoiled(self, value: Any) -> Any:
        """The value with one thing in it, at any depth, put in another's place."""
        if not isinstance(value, dict | list) or not value or self.random.random() < 0.15:
            return self.random.choice(WILD)
        copy = deepcopy(value)
        place = self.random.choice(list(copy)) if isinstance(copy, dict) else self.random.randrange(len(copy))
        copy[place] = self._spoiled(copy[place])
        return copy

    def _sample(self, shape: dict[str, Any], name: str, depth: int = 0) -> Any:
        """A plausible value of a schema's shape; keys are those of rows that are there."""
        if "$ref" in shape:
            return self._sample(self._schema["components"]["schemas"][shape["$ref"].rsplit("/", 1)[-1]], name, depth)
        if several := shape.get("allOf") or shape.get("oneOf") or shape.get("anyOf"):
            return self._sample(self.random.choice(several), name, depth)
        if "enum" in shape:
            return self.random.choice(shape["enum"])
        match shape.get("type"):
            case "object":
                inside = shape.get("properties", {})
                return {
                    key: self._sample(each, key, depth + 1)
                    for key, each in inside.items()
                    if self.random.random() < 0.9
                }
            case "array":
                return [self._sample(shape["items"], name, depth + 1) for _ in range(self.random.choice((0, 1, 1, 2)))]
            case "integer":
                return self.random.choice((0, 1, 2, 5, 100))
            case "number":
                return self.random.choice((0.0, 0.5, 1.0, 12.5, 300.0))
            case "boolean":
                return self.random.random() < 0.5
        if shape.get("format") == "uuid":
            return self._of(f"{name}_id")
        plain = {"date": "2026-05-02", "date-time": "2026-05-02T20:00:00Z"}
        return plain.get(shape.get("format", "")) or self.random.choice((*self._keys.get(name, ()), "wal", "x", "5"))


def keys_there() -> dict[str, list[str]]:
    """Keys of rows of the database that is measured."""
    from nailwright.deck.models import Capture, Event, Outing, Photo, Run
    from nailwright.permits.models import Allowance, Permit
    from nailwright.plan.models import Survey, Unit
    from nailwright.programmes.models import Membership, Person, Programme
    from nailwright.tags.models import Fish
    from nailwright.waters.models import Series, Site, Water

    models: dict[str, Any] = {
        "programme": Programme, "outing": Outing, "capture": Capture, "run": Run, "fish": Fish, "water": Water, "site": Site,
        "survey": Survey, "permit": Permit, "unit": Unit, "series": Series, "allowance": Allowance, "photo": Photo, "event": Event,
        "member": Membership, "gone": Membership, "person": Person,
    }  # fmt: skip
    found = {
        f"{name}_id": [str(key) for key in model._default_manager.values_list("pk", flat=True)[:20]]
        for name, model in models.items()
    }
    names = {name.removesuffix("_id"): keys for name, keys in found.items()}
    return {
        **found,
        **names,
        "code": ["wal", "yep", "nope"],
        "species": ["wal", "yep", "bur"],
        "captures": found["capture_id"],
    }


def measure() -> None:
    LOG.unlink(missing_ok=True)
    server = Server(threads=8, log=str(LOG))
    base = f"http://{server.address}"
    fuzzer = Fuzzer(1, keys_there())
    wild = list(fuzzer.requests(REQUESTS))
    answers: Counter[int] = Counter()
    failed: list[str] = []
    spent: dict[str, float] = defaultdict(float)
    slowest: list[tuple[float, str]] = []

    def session(role: str) -> requests.Session:
        http = requests.Session()
        # an idle one may be closed just as a request goes out: a browser asks again
        http.headers["Connection"] = "close"
        http.get(f"{base}/api/v1/session", timeout=60)
        if role != "nobody":
            http.headers["X-CSRFToken"] = str(http.cookies.get("csrftoken") or "")
            http.post(f"{base}/api/v1/session/demo", json={"username": f"demo-{role}"}, timeout=60)
        http.headers["X-CSRFToken"] = str(http.cookies.get("csrftoken") or "")
        return http

    def send(part: list[Wild]) -> None:
        people = {role: session(role) for role in ROLES}
        for each in part:
            http = people[each.role]
            headers = {"Content-Type": "application/json"} if each.body is not None else {}
            since = perf_counter()
            try:
                answer = http.request(each.method, base + each.path, data=each.body, headers=headers, timeout=120)
            except requests.RequestException as error:
                failed.append(f"{each} -> {error} after {perf_counter() - since:.1f} s"[:600])
                continue
            took = perf_counter() - since
            spent[f"{each.method} {each.endpoint}"] += took
            slowest.append((took, f"{each.method} {each.path[:200]} {answer.status_code}"))
            answers[answer.status_code] += 1
            if answer.status_code >= 500 and answer.status_code != 503:
                failed.append(f"{each} -> {answer.status_code}"[:600])
            if answer.status_code == 401 and each.role != "nobody":
                people[each.role] = session(each.role)

    try:
        server.wait()
        with ThreadPoolExecutor(4) as pool:
            list(pool.map(send, [wild[place::4] for place in range(4)]))
    finally:
        server.stop()
    told = ", ".join(f"{status}: {n:,}" for status, n in sorted(answers.items()))
    show(f"{len(wild):,} wild requests, answered 500", f"{len(failed):,}", told)
    for endpoint, seconds in sorted(spent.items(), key=lambda each: -each[1])[:5]:
        show("  longest together", f"{seconds:,.1f} s", endpoint)
    for seconds, request in sorted(slowest, reverse=True)[:3]:
        show("  slowest", f"{seconds:,.1f} s", request)
    if failed:
        raise SystemExit("\n".join([*failed[:20], f"What went wrong stands in {LOG}."]))
