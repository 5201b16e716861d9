"""Letters to volunteers that ask for what their cards do not say."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.utils import timezone
from django_tasks import task

from nailwright.programmes.models import Membership, Person
from nailwright.programmes.people.mail import mail_is_set, send_mail
from nailwright.programmes.policies import require
from nailwright.programmes.species.known import species_of
from nailwright.returns.models import Card, CardRequest
from nailwright.returns.volunteers.kits import missing_in
from nailwright.returns.wording import nearest, say
from nailwright_core.common.errors import CoreError

#: So long after a letter no other one goes to the same person: whoever is asked twice a day stops answering (common practice).
_NOT_AGAIN = timedelta(hours=20)
#: So many cards are named in one letter.
_NAMED = 20


def card_letter(member: Membership, link: str) -> dict[str, Any]:
    """The letter about a volunteer's incomplete cards, in their language.

    Raises:
        CoreError: ``nothing_missing``.
    """
    programme, person = member.programme, member.person
    cards = [
        (card, missing)
        for card in Card.present.filter(programme=programme, tagger=person)
        if (missing := missing_in(card)) or card.problem
    ]
    if not cards:
        raise CoreError("nothing_missing", f"All cards of {person.name} are complete.", "kit")
    language = nearest(person.date_language)
    species = species_of(programme)
    lines = []
    for card, missing in cards[:_NAMED]:
        kind = species[card.species].common_name if card.species else ""
        day = say(language, "letter-card-day", date=card.caught_on) if card.caught_on else ""
        name = ", ".join(filter(None, (card.number_text, kind, day))) or say(language, "letter-card-unnamed")
        wanted = [say(language, f"letter-card-{field.replace('_', '-')}") for field in missing]
        lines.append(f"- {name}: {', '.join(wanted) or say(language, 'letter-card-check-number')}")
    text = [
        say(language, "letter-greeting", name=person.name),
        say(language, "letter-cards", programme=programme.name, cards=len(cards)),
        "\n".join(lines),
        say(language, "letter-cards-link", link=link),
        say(language, "letter-cards-thanks"),
    ]
    last = CardRequest.objects.filter(programme=programme, tagger=person).first()
    return {
        "to": person.email,
        "subject": say(language, "letter-cards-subject"),
        "text": "\n\n".join(text) + "\n",
        "cards": len(cards),
        "by_mail": mail_is_set() and bool(person.email),
        "asked_at": last.sent_at if last else None,
    }


def ask_for_missing(sender: Person, member: Membership, link: str, by_mail: bool) -> dict[str, Any]:
    """Write to a volunteer, or note that somebody wrote with the text in their own mail program (``by_mail`` false).

    Raises:
        CoreError: ``mail_not_set``, ``address_missing``, ``asked_already``, and as ``card_letter``. Refused: ``role_may_not``.
    """
    require(sender, member.programme, "read_returns")
    letter = card_letter(member, link)
    name = member.person.name
    if letter["asked_at"] and timezone.now() - letter["asked_at"] < _NOT_AGAIN:
        raise CoreError(
            "asked_already", f"{name} was written to at {letter['asked_at']:%H:%M} UTC. Wait until tomorrow.", "kit"
        )
    if by_mail and not mail_is_set():
        raise CoreError(
            "mail_not_set", "This installation sends no mail. Copy the text into a letter of your own.", "kit"
        )
    if by_mail and not letter["to"]:
        raise CoreError(
            "address_missing", f"No mail address of {name} is known. Copy the text and hand it over.", "kit"
        )
    row = CardRequest.objects.create(
        programme=member.programme, tagger=member.person, sender=sender, cards=letter["cards"]
    )
    if by_mail:
        send_card_letter.enqueue(str(row.pk), letter["subject"], letter["text"])
    return {**letter, "asked_at": row.sent_at}


@task()
def send_card_letter(request: str, subject: str, text: str) -> bool:
    """Send a letter to the volunteer whom it is for, where the address is known still."""
    row = CardRequest.objects.select_related("tagger").filter(pk=UUID(request)).first()
    return bool(row and row.tagger.email and send_mail(row.tagger.email, subject, text))
