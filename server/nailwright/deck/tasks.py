"""What the deck leaves to the worker."""

from __future__ import annotations

from django_tasks import task

from nailwright.deck.models import Capture
from nailwright.programmes.mail import send_mail
from nailwright.programmes.models import Membership, Role
from nailwright.programmes.species import species_of


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
    leads = Membership.present.filter(programme=programme, role=Role.LEAD).exclude(person__email="")
    return sum(
        send_mail(each.person.email, f"{programme.name}: beyond a permit", text)
        for each in leads.select_related("person")
    )
