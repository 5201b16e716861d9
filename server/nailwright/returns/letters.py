"""Letters to finders, in their language."""

from __future__ import annotations

from typing import Any

from django_tasks import task

from nailwright.programmes.people.mail import send_mail
from nailwright.returns.answering import story_for_finder
from nailwright.returns.models import Return, Reward
from nailwright.returns.wording import nearest, say


def story_lines(story: dict[str, Any], language: str) -> list[str]:
    """A fish's story in sentences."""
    at = ", ".join(filter(None, (story["place"], story["water"])))
    lines = [say(language, "story-tagged", species=story["species"], date=story["tagged_on"], place=at or "-")]
    if story["length_mm"]:
        lines.append(say(language, "story-length", cm=round(story["length_mm"] / 10, 1)))
    if story["days"] is not None:
        lines.append(say(language, "story-days", days=story["days"]))
    if story["distance_m"]:
        lines.append(say(language, "story-distance", km=round(story["distance_m"] / 1000, 1)))
    if story["growth_mm"] is not None and story["growth_mm"] > 0:
        lines.append(say(language, "story-growth", cm=round(story["growth_mm"] / 10, 1)))
    if story["times_met"] > 1:
        lines.append(say(language, "story-met", times=story["times_met"]))
    return lines


def reward_line(report: Return, language: str) -> list[str]:
    """What its finder is told of a reward: what was promised, or what the tag promises until a person has looked; nothing where there is none."""
    reward = getattr(report, "reward", None)
    amount = reward.amount if reward else report.tag.batch.reward if report.tag and report.tag.batch else None
    if amount is None or (reward is None and Reward.objects.filter(report__tag=report.tag_id).exists()):
        return []
    text = f"{amount:g} {report.programme.currency}".strip()
    return [say(language, "reward-promised" if reward else "reward-waits", amount=text)]


def thanks_letter(report: Return, link: str) -> tuple[str, str]:
    """Subject and text of what is written when a report is verified."""
    language = nearest(report.language)
    story = story_for_finder(report)
    text = [
        say(language, "letter-greeting", name=_name(report)),
        say(language, "letter-thanks", number=report.number_text or "-", programme=report.programme.name),
        *(["\n".join(story_lines(story, language))] if story else []),
        *reward_line(report, language),
        say(language, "letter-link", link=link),
        say(language, "letter-contact"),
    ]
    return say(language, "letter-thanks-subject"), "\n\n".join(text) + "\n"


def question_letter(report: Return, question: str, link: str) -> tuple[str, str]:
    """Subject and text of what is written when something is asked back."""
    language = nearest(report.language)
    text = [
        say(language, "letter-greeting", name=_name(report)),
        say(language, "letter-question", number=report.number_text or "-", programme=report.programme.name),
        question,
        say(language, "letter-answer-by-reply"),
        say(language, "letter-link", link=link),
    ]
    return say(language, "letter-question-subject"), "\n\n".join(text) + "\n"


def _name(report: Return) -> str:
    finder = getattr(report, "finder", None)
    return finder.name if finder and finder.name else "none"


@task()
def send_letter(report: str, subject: str, text: str) -> bool:
    """Send a letter to the finder of a report, where an address is known still."""
    row = Return.objects.select_related("finder").filter(pk=report).first()
    finder = getattr(row, "finder", None)
    return bool(finder and finder.email and send_mail(finder.email, subject, text))
