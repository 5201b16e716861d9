"""Who may do what: one table, asked by every action and every read."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404
from rest_framework.request import Request

from nailwright.common.errors import Refused
from nailwright.programmes.models import Membership, Person, Programme, Role

EVERYBODY = frozenset(Role.values)
WORKING = frozenset({Role.LEAD, Role.BIOLOGIST, Role.CREW})
#: A volunteer records on outings that they opened, and on no other (``Outing.must_be_theirs``).
RECORDING = WORKING | {Role.VOLUNTEER}

#: What may be done, who may do it, and how it is said to whoever may not.
PERMISSIONS: dict[str, tuple[frozenset[str], str]] = {
    "read": (EVERYBODY, "see this programme"),
    "work_deck": (RECORDING, "record on the deck"),
    "open_outing": (RECORDING, "open an outing"),
    "add_site": (WORKING, "add a site"),
    "open_planned": (WORKING, "open an outing of a survey"),
    "close_outing": (RECORDING, "close an outing"),
    "reopen_outing": (frozenset({Role.LEAD, Role.BIOLOGIST}), "open a closed outing again"),
    "correct_record": (frozenset({Role.LEAD, Role.BIOLOGIST}), "correct the record"),
    "read_findings": (EVERYBODY - {Role.VOLUNTEER}, "see findings"),
    "save_finding": (frozenset({Role.LEAD, Role.BIOLOGIST}), "save findings"),
    "see_places": (WORKING, "see where protected species are"),
    "export_rows": (frozenset({Role.LEAD, Role.BIOLOGIST, Role.CREW}), "export rows"),
    "plan": (frozenset({Role.LEAD, Role.BIOLOGIST}), "plan a survey"),
    "calibrate_unit": (WORKING, "enter the resistance of a control box"),
    "keep_tags": (WORKING, "keep the stock of tags"),
    "write_card": (RECORDING, "write a card"),
    "read_returns": (WORKING, "read reports of tags and who sent them"),
    "enter_return": (WORKING, "enter a report of a tag"),
    "verify_returns": (frozenset({Role.LEAD, Role.BIOLOGIST}), "decide reports of tags"),
    "sign": (RECORDING, "sign a checklist"),
    "lead": (frozenset({Role.LEAD}), "change the programme and its people"),
    "choose_species": (frozenset({Role.LEAD, Role.BIOLOGIST}), "choose the programme's species"),
    "import_rows": (frozenset({Role.LEAD, Role.BIOLOGIST}), "import files"),
}


def require(person: Person, programme: Programme, permission: str) -> Membership:
    """The person's membership, if it allows ``permission``.

    Raises:
        Http404: for a stranger, as if there were no such programme: not even that a key exists is told.
        Refused: ``role_may_not``.
    """
    membership = Membership.present.filter(programme=programme, person=person).first()
    if membership is None:
        raise Http404
    allowed, words = PERMISSIONS[permission]
    if membership.role not in allowed:
        who = ", ".join(Role(role).label.lower() for role in Role.values if role in allowed)
        raise Refused("role_may_not", f"A {membership.get_role_display().lower()} may not {words}; this is for: {who}.")
    return membership


def may(person: Person, programme: Programme, permission: str) -> bool:
    """Whether a person may do something; a stranger may nothing."""
    membership = Membership.present.filter(programme=programme, person=person).first()
    return membership is not None and membership.role in PERMISSIONS[permission][0]


def person_of(request: Request) -> Person:
    """Who asks; views that come here are open to nobody else than signed-in people."""
    assert isinstance(request.user, Person)
    return request.user


def programme_for(person: Person, programme_id: UUID | str, permission: str) -> Programme:
    """The programme by its key, where the person may do ``permission`` in it.

    Raises:
        Http404: there is no such programme for this person. Refused: as ``require``.
    """
    programme = Programme.objects.filter(pk=programme_id).first()
    if programme is None:
        raise Http404
    require(person, programme, permission)
    return programme
