"""What is said between net and release: sent twice, late, from two tablets, put right in one field, taken back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Event, Outing, Run
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.people.own_data import FORGOTTEN
from nailwright.programmes.protocols import standing_protocol
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def fish(sync: Send, called: Called) -> str:
    made = called()
    assert sync(made).status_code == 200
    return str(made["id"])


def details(kind: str, about: dict[str, Any] | None = None, minutes_ago: float = 0, /, **fields: Any) -> dict[str, Any]:
    entry = operation("event.record", what=kind, details=fields, **(about or {}))
    entry["device_time"] = (timezone.now() - timedelta(minutes=minutes_ago)).isoformat()
    return entry


def edited(event: dict[str, Any], minutes_ago: float = 0, **row: Any) -> dict[str, Any]:
    entry = operation("event.edit", event=event["id"], **row)
    entry["device_time"] = (timezone.now() - timedelta(minutes=minutes_ago)).isoformat()
    return entry


def states(response: Any) -> list[str]:
    return [each["state"] for each in response.data["results"]]


def test_of_a_fish_a_run_and_a_bath(sync: Send, fish: str, run: Run, outing: Outing, crew: APIClient) -> None:
    moved = details("lane", {"capture": fish}, lane="table")
    power = details("power", {"run": str(run.pk)}, volts=310, amps=9.5)
    bath = details(
        "bath_filled", {"outing": str(outing.pk)}, bath="Bath", agent="tricaine", purpose="surgery", litres=60
    )
    assert states(sync(moved, power, bath)) == ["stored"] * 3
    assert states(sync(bath, moved, power)) == ["already"] * 3
    deck = crew.get(f"/api/v1/outings/{outing.pk}/deck").data
    told = {each["kind"]: each for each in deck["events"]}
    assert told["lane"]["capture"] == fish and told["lane"]["details"] == {"lane": "table"}
    assert told["power"]["run"] == str(run.pk) and told["power"]["capture"] is None
    assert told["bath_filled"]["details"]["litres"] == 60.0 and told["bath_filled"]["run"] is None
    kinds = {each["code"]: each for each in deck["event_kinds"]}
    lanes = kinds["lane"]["fields"][0]["choices"]
    assert [each["value"] for each in lanes] == ["well", "bath", "table", "recovery"]


def test_of_several_fish_some_of_which_come_later(sync: Send, called: Called) -> None:
    first, second = called(), called()
    sync(first)
    both = operation("event.record", what="lane", details={"lane": "recovery"}, captures=[first["id"], second["id"]])
    assert states(sync(both)) == ["failed"]  # waits for the other
    assert Event.objects.get().capture_id.hex == first["id"].replace("-", "")
    assert states(sync(second, both)) == ["stored", "stored"]
    assert Event.objects.count() == 2
    assert states(sync(both)) == ["already"] and Event.objects.count() == 2


def test_of_a_fish_that_has_not_arrived(sync: Send, called: Called) -> None:
    made = called()
    ahead = details("stage", {"capture": made["id"]}, stage="4")
    assert states(sync(ahead)) == ["failed"]
    assert states(sync(made, ahead)) == ["stored", "stored"]


def test_one_field_is_put_right_and_all_else_stays(sync: Send, fish: str) -> None:
    seen = details("found", {"capture": fish}, 9, what="scrape", part="belly", degree="slight")
    sync(seen, edited(seen, 8, details={"degree": "heavy"}))
    event = Event.objects.get()
    assert event.details == {"what": "scrape", "part": "belly", "degree": "heavy"}
    change = Change.objects.get()
    assert change.before == {"details.degree": "slight"} and change.after == {"details.degree": "heavy"}
    sync(edited(seen, 7, details={"part": None}))
    event.refresh_from_db()
    assert event.details == {"what": "scrape", "degree": "heavy"}
    # two tablets, the earlier word arriving later: the later one stands, the other is kept in the history
    sync(edited(seen, 1, details={"what": "scar"}), edited(seen, 3, details={"what": "sore"}))
    event.refresh_from_db()
    assert event.details["what"] == "scar" and Change.objects.exclude(late={}).get().late == {"details.what": "sore"}
    assert sync(edited(seen, details={"what": None})).data["code"] == "value_missing"
    assert sync(edited(seen, details={"what": "dragon"})).data["field"] == "what"


def test_its_time_is_put_right_and_it_is_taken_back(sync: Send, fish: str, outing: Outing, crew: APIClient) -> None:
    moved = details("lane", {"capture": fish}, 5, lane="table")
    at = (timezone.now() - timedelta(minutes=20)).replace(microsecond=0)
    out = edited(moved, deleted=True)
    sync(moved, edited(moved, 4, at=at.isoformat()), out)
    event = Event.objects.get()
    assert event.device_time == at and event.deleted_at
    assert crew.get(f"/api/v1/outings/{outing.pk}/deck").data["events"] == []
    sync(edited(moved, deleted=False))
    assert states(sync(out)) == ["already"]
    event.refresh_from_db()
    assert event.deleted_at is None and event.details == {"lane": "table"}


def test_after_the_outing_closed_nothing_changes(sync: Send, fish: str) -> None:
    moved = details("lane", {"capture": fish}, lane="table")
    sync(moved)
    Outing.objects.update(state=Outing.State.CLOSED)
    assert states(sync(moved)) == ["already"]
    assert sync(details("lane", {"capture": fish}, lane="recovery")).data["code"] == "outing_closed"
    assert sync(edited(moved, details={"lane": "bath"})).data["code"] == "outing_closed"
    assert Event.objects.get().details == {"lane": "table"}


def test_words_of_the_protocol_of_then_and_of_now(
    sync: Send, fish: str, outing: Outing, programme: Programme, client_as: Any
) -> None:
    """An outing under an older protocol takes its own words and those that hold now."""
    lanes = [
        *map(dict, standing_protocol(programme).rows("lanes")),
        {"code": "keep-net", "word": "Keep net", "most_min": 600.0, "water": "water"},
    ]
    decided = client_as("lead").post(
        f"/api/v1/programmes/{programme.pk}/protocol",
        {"id": str(new_id()), "based_on": 1, "why": "a keep net", "sections": {"lanes": lanes}}, format="json",
    )  # fmt: skip
    assert decided.status_code in (200, 201), decided.data
    assert states(sync(details("lane", {"capture": fish}, lane="keep-net"))) == ["stored"]
    assert sync(details("lane", {"capture": fish}, lane="moon")).data["code"] == "code_unknown"


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ({"what": "dance"}, "event_unknown"),
        ({"what": "lane"}, "key_unreadable"),
        ({"what": "lane", "captures": []}, "captures_unreadable"),
        ({"what": "lane", "captures": [str(new_id())], "details": {"lane": "moon"}}, "code_unknown"),
    ],
    ids=lambda value: value if isinstance(value, str) else value["what"],
)
def test_refused_in_words(sync: Send, run: Run, row: dict[str, Any], code: str) -> None:
    answer = sync(operation("event.record", **row)).data
    assert answer["code"] == code and answer["message"]
    assert not Event.objects.exists()


def test_a_bath_with_no_volume_and_what_is_no_object(sync: Send, outing: Outing) -> None:
    about = {"outing": str(outing.pk)}
    empty = details("bath_filled", about, bath="Bath", agent="tricaine", purpose="surgery", litres=0)
    assert (sync(empty).data["code"], sync(empty).data["field"]) == ("number_out_of_range", "litres")
    odd = operation("event.record", what="bath_dosed", details=["ml"], **about)
    assert sync(odd).data["code"] == "details_unreadable"


def test_of_another_programme(sync: Send, fish: str, person_as: Any) -> None:
    moved = details("lane", {"capture": fish}, lane="table")
    sync(moved)
    other = Programme.objects.create(name="Other")
    Outing.objects.update(programme=other)
    Capture.objects.update(programme=other)
    # as if there were no such fish and no such entry
    assert (
        states(sync(details("lane", {"capture": fish}, lane="table"), edited(moved, details={"lane": "bath"})))
        == ["failed"] * 2
    )


def test_of_a_fish_that_was_taken_out_nothing_is_told(sync: Send, fish: str, outing: Outing, crew: APIClient) -> None:
    sync(details("lane", {"capture": fish}, lane="table"), operation("capture.delete", capture=fish))
    assert crew.get(f"/api/v1/outings/{outing.pk}/deck").data["events"] == []
    sync(operation("capture.restore", capture=fish))
    assert len(crew.get(f"/api/v1/outings/{outing.pk}/deck").data["events"]) == 1


def test_a_surgeon_is_forgotten(sync: Send, fish: str, programme: Programme) -> None:
    from nailwright.deck.forgetting import replace_name

    sync(details("surgery", {"capture": fish}, surgeon="Zoë Vik", monitor="Ada", licence="AC 12", version=1))
    replace_name("zoë vik", FORGOTTEN, [programme])
    assert Event.objects.get().details == {"surgeon": FORGOTTEN, "monitor": "Ada", "licence": "AC 12", "version": 1}


def test_what_earlier_baths_say(
    sync: Send, called: Called, outing: Outing, programme: Programme, crew: APIClient
) -> None:
    """Fish in six baths of three strengths, each faster in the stronger one: the line and its suggestion come, over baths; who was seen up to the
    end counts as longer, and up again in recovery tells nothing."""
    about = {"outing": str(outing.pk)}
    address = f"/api/v1/programmes/{programme.pk}/inductions?agent=tricaine&purpose=surgery"
    assert "8 fish" in crew.get(address).data["problem"]
    minute = 115.0
    baths = (
        (80, (250, 240, 262)),
        (100, (180, 190, 171)),
        (130, (120, 128, 115)),
        (80, (255,)),
        (100, (176,)),
        (130, (118,)),
    )
    for strength, times in baths:
        sync(
            details("bath_filled", about, minute, bath="Bath", agent="tricaine", purpose="surgery", litres=50),
            details("bath_dosed", about, minute - 0.2, bath="Bath", ml=strength / 2),
            details("bath_read", about, minute - 0.3, bath="Bath", temperature_c=11),
        )
        for seconds in times:
            fish = called()
            into = details("lane", {"capture": fish["id"]}, minute - 1, lane="bath")
            still = details("stage", {"capture": fish["id"]}, minute - 1 - seconds / 60, stage="4")
            assert states(sync(fish, into, still)) == ["stored"] * 3
            minute -= 6
    told = crew.get(address).data
    assert [round(each["mg_l"]) for each in told["points"]] == [80] * 3 + [100] * 3 + [130] * 3 + [80, 100, 130]
    assert [round(each["seconds"]) for each in told["points"]] == [time for _, times in baths for time in times]
    assert told["line"]["slope"]["upper"] < 0 and 90 < told["line"]["suggest_mg_l"] < 110
    assert (told["line"]["n"], told["line"]["still_up"], told["line"]["baths"]) == (12, 0, 6)
    last = called()
    about_it = {"capture": last["id"]}
    sync(
        last,
        details("lane", about_it, minute - 1, lane="bath"),
        details("stage", about_it, minute - 4, stage="2"),
        details("lane", about_it, minute - 5, lane="recovery"),
        details("stage", about_it, minute - 5.5, stage="1"),
    )
    up = crew.get(address).data
    assert [(round(each["seconds"]), each["lay"]) for each in up["points"]][-1] == (180, False)
    assert up["line"]["still_up"] == 1 and up["line"]["suggest_mg_l"] > told["line"]["suggest_mg_l"]
    assert told["line"]["per_degree"] is None and told["problem"] == ""
    assert crew.get(address.replace("tricaine", "honey")).status_code == 422


def test_reflexes_of_which_none_is_impaired_any_more(sync: Send, fish: str, outing: Outing, crew: APIClient) -> None:
    tried = details("reflexes", {"capture": fish}, 5, tried=["gills", "bite"], impaired=["bite"])
    sync(tried, edited(tried, 4, details={"impaired": []}))
    assert Event.objects.get().details == {"tried": ["gills", "bite"]}
    told = crew.get(f"/api/v1/outings/{outing.pk}/ledger").data["handled"]
    assert "mean score 0.00" in told[0]


def test_bottom_and_bank_of_a_site_are_there_on_the_next_visit(
    sync: Send, run: Run, outing: Outing, crew: APIClient, programme: Programme
) -> None:
    sync(
        details("habitat", {"run": str(run.pk)}, 9, bottom="mud"),
        details("habitat", {"run": str(run.pk)}, 5, bottom="gravel"),
    )
    address = f"/api/v1/outings/{outing.pk}/deck"
    assert crew.get(address).data["habitats"] == {}  # its own are among its events
    later = Outing.objects.create(
        programme=programme, water=outing.water, name="Later", date=outing.date, gear=outing.gear
    )
    assert crew.get(f"/api/v1/outings/{later.pk}/deck").data["habitats"] == {str(run.site_id): {"bottom": "gravel"}}


def test_a_species_that_was_seen_and_left_is_one_of_the_programmes(sync: Send, run: Run) -> None:
    seen, odd = (details("seen_left", {"run": str(run.pk)}, species=code, n=12) for code in ("wal", "zzz"))
    assert states(sync(seen, odd)) == ["stored", "refused"]
