"""What the deck leaves to the worker."""

from __future__ import annotations

from django_tasks import task

from nailwright.deck.models import Capture, Outing, Photo
from nailwright.deck.outing.visits import find_groups
from nailwright.programmes.models import Membership, Programme, Role
from nailwright.programmes.people.mail import send_mail
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of


@task()
def tell_leads(keys: list[str]) -> int:
    """Write to the leads of a programme that fish were kept beyond a permit, each with its reason.

    Returns:
        How many letters went out; none where there is no mail server. Today says it all the same.
    """
    fish = list(Capture.objects.filter(pk__in=keys).select_related("programme", "run__outing", "run__site", "recorder"))
    if not fish:
        return 0
    programme = fish[0].programme
    species = species_of(programme)
    lines = [
        f"- {each.count} {species[each.species].common_name}, {each.length_text or 'not measured'}: {each.note or 'no reason'} "
        f"({each.recorder.name}; {each.run.outing.name} of {each.run.outing.date:%d %b %Y}, run {each.run.number})"
        for each in fish
    ]
    text = (
        f"Fish were kept beyond what a permit of {programme.name} allows:\n\n"
        + "\n".join(lines)
        + "\n\nRead them on Today, and tell the agency what your permit asks you to tell.\n"
    )
    return sum(send_mail(each, f"{programme.name}: beyond a permit", text) for each in _leads(programme))


@task()
def tell_of_special(keys: list[str]) -> int:
    """Write to whom the protocol names for a species of special interest, or else to the leads, that such fish were caught.

    Returns:
        How many letters went out.
    """
    fish = list(
        Capture.objects.filter(pk__in=keys).select_related(
            "programme", "run__outing__protocol", "run__site", "recorder"
        )
    )
    sent = 0
    for species in sorted({each.species for each in fish}):
        of_it = [each for each in fish if each.species == species]
        programme, name = of_it[0].programme, species_of(of_it[0].programme)[species].common_name
        lines = [
            f"- {each.count} {name}, {each.length_text or 'not measured'} {each.length_unit}, {each.run.site.name} "
            f"({each.recorder.name}; {each.run.outing.name} of {each.run.outing.date:%d %b %Y}, run {each.run.number})"
            for each in of_it
        ]
        text = f"Fish of special interest to {programme.name} were caught:\n\n" + "\n".join(lines) + "\n"
        named = _told_of(of_it[0].run.outing, programme, species)
        sent += sum(send_mail(each, f"{programme.name}: {name}", text) for each in named)
    return sent


@task()
def tell_of_photo(photo_id: str) -> int:
    """Send a photo of a fish of special interest to whom the protocol names for it, or else to the leads.

    Returns:
        How many letters went out; none where the photo was taken out meanwhile.
    """
    photos = Photo.present.select_related(
        "file", "outing__protocol", "outing__programme", "capture__run__site", "recorder"
    )
    photo = photos.filter(pk=photo_id, capture__deleted_at=None).first()
    if photo is None or photo.capture is None:
        return 0
    capture, programme = photo.capture, photo.outing.programme
    name = species_of(programme)[capture.species].common_name
    text = (
        f"{photo.get_shows_display()}: {name}, {capture.length_text or 'not measured'} {capture.length_unit}, "
        f"{capture.run.site.name} ({photo.recorder.name}; {photo.outing.name} of {photo.outing.date:%d %b %Y}).\n"
        f"{photo.note}\n"
    )
    picture = (f"{capture.species}-{photo.shows}.jpg", bytes(photo.file.jpeg), "image/jpeg")
    named = _told_of(photo.outing, programme, capture.species)
    return sum(send_mail(each, f"{programme.name}: {name}, photo", text, [picture]) for each in named)


def _told_of(outing: Outing, programme: Programme, species: str) -> list[str]:
    """Addresses of whom the protocol names for a species, or else of the leads."""
    rows = protocol_in(outing.protocol).rows("told")
    return [str(row["email"]) for row in rows if row["species"] == species] or _leads(programme)


@task()
def group_lengths(outing_id: str) -> None:
    """Find the groups of lengths of a visit, for the board of the next one."""
    find_groups(Outing.objects.get(pk=outing_id))


def _leads(programme: Programme) -> list[str]:
    leads = Membership.present.filter(programme=programme, role=Role.LEAD).exclude(person__email="")
    return [each.person.email for each in leads.select_related("person")]
