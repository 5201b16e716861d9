"""The gateway between instruments and Decks, with the stand-ins as processes of their own."""

from __future__ import annotations

import asyncio
import json
import os
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Awaitable, Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
import requests
from django.core import signing
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Outing
from nailwright.gateway import web as gateway_web
from nailwright.gateway.__main__ import read_instruments
from nailwright.gateway.hub import Hub
from nailwright.gateway.links import Link
from nailwright.gateway.tickets import has_ended, make_ticket, read_ticket
from nailwright.gateway.web import Web, server_of
from nailwright.programmes.models import ApiToken, Membership, Person, Programme, StreamTicket
from nailwright.programmes.people.account import reset_links
from nailwright.programmes.people.members import change_member
from nailwright.programmes.record.audit import Act
from nailwright_core.instruments.readers import MeasuringBoard
from standins.instruments import pit_frame

ROOT = Path(__file__).resolve().parents[3]
PAGE = "http://127.0.0.1:1"
NAMES = ("pit", "board", "balance", "gps", "probe")


def free_ports(n: int) -> int:
    """The first of so many free ports in a row."""
    # below those that the system gives to whoever connects
    for first in range(20_000 + os.getpid() % 10_000, 32_700, n):
        try:
            for port in range(first, first + n):
                with socket.socket() as probe:
                    probe.bind(("127.0.0.1", port))
        except OSError:
            continue
        return first
    raise RuntimeError("no ports are free")


class Boat:
    """Stand-ins and gateway, and what one Deck was told."""

    def __init__(self) -> None:
        first = free_ports(7)
        self.address = f"http://127.0.0.1:{first + 6}"
        self.standins = first
        environment = {
            **os.environ, "NAILWRIGHT_STANDINS": str(first + 5), "NAILWRIGHT_GATEWAY_ORIGINS": PAGE,
            "NAILWRIGHT_INSTRUMENTS": ",".join(f"{name}=127.0.0.1:{first + place}" for place, name in enumerate(NAMES)),
        }  # fmt: skip
        commands = (["standins.instruments", str(first)], ["nailwright.gateway", str(first + 6)])
        self.processes = [
            subprocess.Popen([sys.executable, "-m", *each], env=environment, cwd=ROOT) for each in commands
        ]
        self.states: dict[str, dict[str, Any]] = {}
        self.readings: list[dict[str, Any]] = []

    def listen(self, ticket_: str) -> None:
        for _ in range(100):
            try:
                stream = requests.get(f"{self.address}/stream", params={"ticket": ticket_}, stream=True, timeout=30)
                break
            except requests.ConnectionError:
                time.sleep(0.1)
        assert stream.status_code == 200 and stream.headers["Content-Type"].startswith("text/event-stream")

        def read() -> None:
            event = ""
            try:
                for line in stream.iter_lines(chunk_size=1, decode_unicode=True):
                    if line.startswith("event: "):
                        event = line[7:]
                    elif line.startswith("data: ") and event == "states":
                        self.states = {each["kind"]: each for each in json.loads(line[6:])}
                    elif line.startswith("data: "):
                        self.readings.append(json.loads(line[6:]))
            except (requests.RequestException, AttributeError):
                pass  # the gateway was ended

        threading.Thread(target=read, daemon=True).start()

    def play(self, ticket_: str, **deed: Any) -> requests.Response:
        return requests.post(f"{self.address}/play", params={"ticket": ticket_}, json=deed, timeout=10)

    def of(self, kind: str) -> list[dict[str, Any]]:
        return [each for each in self.readings if each["kind"] == kind]

    def end(self) -> None:
        for each in self.processes:
            each.terminate()
        for each in self.processes:
            each.wait(10)


def eventually(holds: Callable[[], Any]) -> None:
    until = time.monotonic() + 20
    while not holds():
        assert time.monotonic() < until, "it did not come"
        time.sleep(0.05)


@pytest.fixture(scope="module")
def boat() -> Iterator[Boat]:
    boat = Boat()
    yield boat
    boat.end()


@pytest.fixture
def good() -> str:
    """A ticket that the application signed; the boat's gateway reaches no database that knows it, and goes by the signature."""
    return signing.dumps(str(new_id()), salt="nailwright.gateway")


def test_an_evening_at_the_instruments(boat: Boat, good: str) -> None:
    boat.listen(good)
    eventually(lambda: boat.states and {each["state"] for each in boat.states.values()} == {"connected"})
    assert boat.play(good, do="length", value=437).json() == {"done": "length"}
    eventually(lambda: [each["values"] for each in boat.of("length")] == [{"length": 437.0}])
    boat.play(good, do="mass", value=890)
    eventually(lambda: boat.of("mass") and boat.of("mass")[-1]["stable"])
    assert boat.of("mass")[-1]["values"] == {"mass": 890.0} and not boat.of("mass")[0]["stable"]
    for number in ("999000000120001", "999000000120038"):  # two fish within a tenth of a second: both are told
        boat.play(good, do="pit", number=number)
    eventually(lambda: {each["text"] for each in boat.of("pit")} == {"999000000120001", "999000000120038"})
    eventually(lambda: boat.of("position") and boat.of("water"))
    position = boat.of("position")[0]["values"]
    assert (position["lat"], position["lon"]) == pytest.approx((44.9725, -31.4555), abs=0.01)


def test_garbled_halved_unplugged_and_flooded(boat: Boat, good: str) -> None:
    boat.listen(good)
    eventually(lambda: boat.states.get("board", {}).get("state") == "connected")
    boat.play(good, do="garble", of="board")
    eventually(lambda: boat.states["board"]["state"] == "garbled")
    assert "checksum" in boat.states["board"]["why"] and boat.states["balance"]["state"] == "connected"
    before = len(boat.of("mass"))
    boat.play(good, do="half", of="balance")  # half a line waits for its end, which another line brings
    boat.play(good, do="never settle", value=500)
    eventually(lambda: len(boat.of("mass")) > before)
    assert not boat.of("mass")[-1]["stable"]
    boat.play(good, do="unplug", of="board")
    eventually(lambda: boat.states["board"]["state"] == "absent")
    boat.play(good, do="plug", of="board")
    eventually(lambda: boat.states["board"]["state"] == "connected")
    before, began = {each["n"] for each in boat.readings}, time.monotonic()
    boat.play(good, do="flood", of="board", n=5000)
    boat.play(good, do="length", value=733)
    eventually(lambda: boat.of("length")[-1]["values"] == {"length": 733.0})
    # of thousands of lines the newest is told, ten times a second at most
    told = {each["n"] for each in boat.of("length")} - before
    assert 1 <= len(told) <= 10 * (time.monotonic() - began) + 2


def test_who_may_listen(boat: Boat, good: str) -> None:
    eventually(lambda: _answers(boat))
    old = signing.dumps(str(new_id()), salt="something else")
    for bad in ("", "x", old):
        assert requests.get(f"{boat.address}/stream", params={"ticket": bad}, timeout=10).status_code == 403
    elsewhere = {"Origin": "http://elsewhere.example"}
    assert (
        requests.get(f"{boat.address}/stream", params={"ticket": good}, headers=elsewhere, timeout=10).status_code
        == 403
    )
    asks = {"Origin": PAGE, "Access-Control-Request-Method": "POST", "Access-Control-Request-Headers": "content-type"}
    preflight = requests.options(f"{boat.address}/play", headers=asks, timeout=10)
    assert preflight.headers["Access-Control-Allow-Origin"] == PAGE
    assert requests.get(f"{boat.address}/other", params={"ticket": good}, timeout=10).status_code == 404
    assert boat.play(good, do="dance").status_code == 422
    for deep in ("[" * 4000, '{"do":' * 600 + "1" + "}" * 600):
        refused = requests.post(f"{boat.address}/play", params={"ticket": good}, data=deep, timeout=10)
        assert refused.status_code in (400, 422), refused.text
    with socket.create_connection(("127.0.0.1", boat.standins + 5)) as told:
        told.sendall(b"[" * 50_000 + b"\n")
        assert b"error" in told.recv(4096)
    assert boat.play(good, do="length", value=437).status_code == 200  # it goes on
    with socket.create_connection(("127.0.0.1", int(boat.address.rsplit(":", 1)[1]))) as wire:
        wire.sendall(b"nonsense\r\n\r\n")
        assert wire.recv(100).startswith(b"HTTP/1.1 400")


def _answers(boat: Boat) -> bool:
    try:
        return requests.get(f"{boat.address}/other", timeout=2).status_code == 403
    except requests.ConnectionError:
        return False


@pytest.mark.parametrize("text", ["pit", "pit=x", "sonar=127.0.0.1:1", "pit=127.0.0.1:1,board=127.0.0.1:1", "pit=:5"])
def test_instruments_that_cannot_be_read(text: str) -> None:
    with pytest.raises(SystemExit, match="kind=host:port"):
        read_instruments(text)


@pytest.mark.parametrize("role", ["crew", "viewer"])
def test_the_application_says_where_the_gateway_is(
    client_as: Any, outing: Outing, monkeypatch: pytest.MonkeyPatch, role: str
) -> None:
    address = f"/api/v1/outings/{outing.pk}/instruments"
    monkeypatch.delenv("NAILWRIGHT_GATEWAY_URL", raising=False)
    if role == "viewer":
        assert client_as(role).get(address).status_code == 403
        return
    nowhere = {"stream": "", "play": "", "simulated": False}
    assert client_as(role).get(address).data == nowhere
    monkeypatch.setenv("NAILWRIGHT_GATEWAY_URL", "http://127.0.0.1:8430/")
    real = client_as(role).get(address).data
    assert real["stream"].startswith("http://127.0.0.1:8430/stream?ticket=")
    assert (real["play"], real["simulated"]) == ("", False)
    # simulated ones are heard in practice alone, but by the demo, whose fish are made up as well
    monkeypatch.setenv("NAILWRIGHT_STANDINS", "9315")
    assert client_as(role).get(address).data == {**nowhere, "simulated": True}
    Programme.objects.filter(pk=outing.programme_id).update(demo=True)
    for told in (client_as(role).get(address).data, client_as(role).get(f"{address}?practice=true").data):
        assert told["stream"].startswith("http://127.0.0.1:8430/stream?ticket=") and told["simulated"]
        assert told["play"].startswith("http://127.0.0.1:8430/play?ticket=")
    assert not read_instruments("")


def test_two_readers_at_once() -> None:
    """Two of a kind are told apart, each with its state; what both read is told of both."""
    addresses = read_instruments("pit=127.0.0.1:1, board=127.0.0.1:3, pit=127.0.0.1:2")
    assert list(addresses) == ["pit", "board", "pit-2"]
    hub = Hub(addresses)
    queue = hub.join()
    assert queue
    states = json.loads(queue.get_nowait().split("data: ")[1])
    assert [(each["kind"], each["title"]) for each in states] == [
        ("pit", "PIT reader"), ("board", "Measuring board"), ("pit-2", "PIT reader 2"),
    ]  # fmt: skip
    first, _, second = hub.links
    for link, number in ((first, "999000000120001"), (second, "999000000120001"), (second, "999000000120038")):
        link.hear(pit_frame(number))
    second.hear("F 0123")
    assert (first.garbled, second.garbled) == (0, 1)

    async def told() -> list[tuple[str, str]]:
        async with asyncio.timeout(5):
            flushing = asyncio.create_task(hub.run())
            found = []
            while len(found) < 3:
                event, data = (await queue.get()).split("\ndata: ")
                if event == "event: reading":
                    found.append((json.loads(data)["instrument"], json.loads(data)["text"]))
            flushing.cancel()
            return found

    assert asyncio.run(told()) == [
        ("pit", "999000000120001"), ("pit-2", "999000000120001"), ("pit-2", "999000000120038"),
    ]  # fmt: skip


def test_a_fault_of_ours_in_one_line_ends_no_evening() -> None:
    """A decoder that breaks is met again after the line is connected anew; the gateway goes on."""
    met: list[str] = []

    class Broken(MeasuringBoard):
        def decode(self, line: str) -> None:
            met.append(line)
            raise RuntimeError("a fault of ours")

    async def speaks(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        writer.write(b"LEN = 437 mm*00\n")
        await reader.read()
        writer.close()

    async def evening() -> None:
        server = await asyncio.start_server(speaks, "127.0.0.1", 0)
        link = Link("board", "127.0.0.1", server.sockets[0].getsockname()[1], lambda *_: None, lambda: None)
        link._decoder = Broken()
        running = asyncio.create_task(link.run())
        async with asyncio.timeout(15):
            while len(met) < 2:
                await asyncio.sleep(0.05)
        assert not running.done()
        running.cancel()
        server.close()

    asyncio.run(evening())


ENDS = ("reset", "changed", "left", "sign-out", "everywhere", "shut out")


@pytest.mark.django_db
@pytest.mark.parametrize("how", ENDS)
def test_tokens_and_tickets_end_with_the_sign_in(
    how: str, programme: Programme, outing: Outing, person_as: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("NAILWRIGHT_GATEWAY_URL", "http://127.0.0.1:8430")
    person, lead = person_as("crew"), person_as("lead")
    person.set_password("walleye at dusk")
    person.save()
    client = APIClient()
    client.force_login(person)
    told = client.get(f"/api/v1/outings/{outing.pk}/instruments").data
    key = read_ticket(told["stream"].split("ticket=")[1].replace("%3A", ":"))
    assert key and not has_ended(key)
    token = client.post("/api/v1/tokens", {"scope": "read"}, format="json").data["token"]
    program = APIClient(HTTP_AUTHORIZATION=f"Token {token}")
    asked = f"/api/v1/programmes/{programme.pk}/outings"
    assert program.get(asked).status_code == 200
    member = Membership.objects.get(person=person)
    if how == "reset":
        body = {"person": str(person.pk), "token": reset_links.make_token(person), "password": "perch before dawn"}
        assert APIClient().post("/api/v1/password/reset", body, format="json").status_code == 200
    elif how == "changed":
        body = {"old": "walleye at dusk", "new": "perch before dawn"}
        assert client.post("/api/v1/account/password", body, format="json").status_code == 204
    elif how == "left":
        change_member(Act(new_id(), lead, timezone.now()), member, {"here": False})
    elif how == "sign-out":
        client.delete("/api/v1/session")
    elif how == "everywhere":
        client.post("/api/v1/session/everywhere")
    else:
        as_lead = APIClient()
        as_lead.force_authenticate(lead)
        assert as_lead.post(f"/api/v1/members/{member.pk}/shut-out").status_code == 204
    assert has_ended(key)
    # a token is no sign-in of a tablet: signing out there leaves it
    assert program.get(asked).status_code == (200 if how == "sign-out" else 401)
    # this very sign-in stays where one changes the password oneself
    assert bool(client.get("/api/v1/session").data["person"]) == (how == "changed")


@pytest.mark.django_db
def test_another_sign_in_of_the_same_person_keeps_its_stream(person_as: Any) -> None:
    person = person_as("crew")
    tablet, phone = make_ticket(person, "session-a"), make_ticket(person, "session-b")
    client = APIClient()
    client.force_login(person)
    client.delete("/api/v1/session")
    assert not has_ended(read_ticket(tablet)) and not has_ended(read_ticket(phone))  # type: ignore[arg-type]
    Person.objects.filter(pk=person.pk).update(is_active=False)
    assert has_ended(read_ticket(tablet))  # type: ignore[arg-type]
    assert StreamTicket.objects.count() == 2 and not ApiToken.objects.exists()


async def _served(hub: Hub) -> tuple[int, Callable[[], Awaitable[None]]]:
    """The gateway on a socket in this very loop: its port, and how to end it."""
    server = server_of(Web(hub, frozenset(), None), (), "127.0.0.1", 0)
    serving = asyncio.create_task(server.serve())
    while not server.started:
        await asyncio.sleep(0.01)

    async def end() -> None:
        server.should_exit = True
        await serving

    return server.servers[0].sockets[0].getsockname()[1], end


def test_a_ticket_holds_one_stream_open_and_ends_with_its_sign_in(monkeypatch: pytest.MonkeyPatch, good: str) -> None:
    """The gateway itself, on a socket: the newer stream takes the older one's place; the sign-in ends, and the stream with it."""
    ended = threading.Event()
    monkeypatch.setattr(gateway_web, "has_ended", lambda key: ended.is_set())
    monkeypatch.setattr(gateway_web, "LOOK_EVERY_S", 0.05)
    monkeypatch.setattr(gateway_web, "STILL_HERE_S", 0.05)

    async def evening() -> None:
        hub = Hub({})
        port, end = await _served(hub)

        writers = []

        async def listen() -> asyncio.StreamReader:
            reader, writer = await asyncio.open_connection("127.0.0.1", port)
            writers.append(writer)  # or it would be closed with the last name for it
            writer.write(f"GET /stream?ticket={good} HTTP/1.1\r\nHost: x\r\n\r\n".encode())
            await reader.readuntil(b"event: states")
            return reader

        first = await listen()
        second = await listen()
        async with asyncio.timeout(5):
            await first.readuntil(b"\r\n0\r\n\r\n")  # its end
        assert len(hub.listeners) == 1 and not second.at_eof()
        ended.set()
        async with asyncio.timeout(5):
            await second.readuntil(b"\r\n0\r\n\r\n")
        assert not hub.listeners
        reader, writer = await asyncio.open_connection("127.0.0.1", port)
        writer.write(f"GET /stream?ticket={good} HTTP/1.1\r\nHost: x\r\n\r\n".encode())
        assert b"403" in await reader.readline()
        await end()

    asyncio.run(evening())


def test_a_listener_that_takes_nothing_is_left_behind(monkeypatch: pytest.MonkeyPatch, good: str) -> None:
    """A phone that reads no more: neither does its queue grow, nor do the others wait for it."""
    monkeypatch.setattr(gateway_web, "has_ended", lambda key: False)
    monkeypatch.setattr(gateway_web, "SLOWEST_S", 0.3)

    async def evening() -> None:
        hub = Hub({})
        port, end = await _served(hub)
        reader, writer = await asyncio.open_connection("127.0.0.1", port, limit=1024)
        writer.write(f"GET /stream?ticket={good} HTTP/1.1\r\nHost: x\r\n\r\n".encode())
        await reader.readuntil(b"event: states")
        writer.transport.pause_reading()  # type: ignore[attr-defined]
        (queue,) = hub.listeners
        until = time.monotonic() + 20
        while hub.listeners:
            assert time.monotonic() < until, "it is still waited for"
            hub._send("event: reading\ndata: " + "x" * 100_000 + "\n\n")
            assert queue.qsize() <= 200
            await asyncio.sleep(0.005)
        writer.close()
        await end()

    asyncio.run(evening())
