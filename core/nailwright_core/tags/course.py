"""The tagging course for volunteers: its questions, when it is passed, and its practice fish.

What is taught is common practice, no source, after handbooks of tagging programmes; the programme's protocol and permit come first.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_length

#: Share of the questions that has to be right; questions marked ``must`` all (common practice, no source).
PASS_SHARE = 0.8
#: So long a course counts (common practice, no source).
VALID_DAYS = 730
#: How far a length read off the drawn board may be from what stands there, mm.
BOARD_ERROR_MM = 3.0


@dataclass(frozen=True)
class Question:
    """One question. ``choices``: code and words of each answer; ``right``: code of the right one; ``why``: shown after the answer.

    ``must``: it concerns the safety of people or the life of the fish, so that a wrong answer fails the course.
    """

    code: str
    text: str
    choices: tuple[tuple[str, str], ...]
    right: str
    why: str
    must: bool = False


@dataclass(frozen=True)
class PracticeFish:
    """The fish that is tagged on the screen in the end: what its drawing shows."""

    number: str
    length_mm: float
    condition: int
    behaviour: str


@dataclass(frozen=True)
class Graded:
    """What came of the answers.

    Attributes:
        right: how many questions are right. n: questions.
        wrong: codes of those that are wrong or not answered, in order.
        missed_must: whether one of them is a ``must``.
        practice: words for what is wrong with the practice card, by field; empty where all is right.
        passed: whether the course is passed.
    """

    right: int
    n: int
    wrong: tuple[str, ...]
    missed_must: bool
    practice: dict[str, str]
    passed: bool


QUESTIONS: tuple[Question, ...] = (
    Question(
        "before", "When is the tag loaded and the number noted?",
        (("after", "As soon as the fish lies on the board"), ("before", "Before a fish is on the hook"), ("boat", "At home, ten at a time")), "before",
        "Each second that the fish waits in the air costs it strength. Tag loaded, position taken and board wet come first."),
    Question(
        "which", "Which fish is not tagged?",
        (("bleeding", "One that bleeds from the gills"), ("small", "One that is far below the usual size"), ("quiet", "One that lies quietly in the net")), "bleeding",
        "A fish that bleeds from the gills, is hooked deep or cannot hold itself upright has little chance. Release it without a tag and record it.", must=True),
    Question(
        "scan", "You find an old tag in the fish. What now?",
        (("cut", "Cut it off and put in a new one"), ("second", "Leave it and add a second one"), ("read", "Read and record its number, leave it in the fish")), "read",
        "A fish that is met again is worth more than a new one. Its tag stays; scrape off growth, read the number twice."),
    Question(
        "wet", "How is the fish handled?",
        (("wet", "With wet hands, on a wet board, level"), ("dry", "With a dry cloth, so that it does not slip"), ("jaw", "By the lower jaw, hanging")), "wet",
        "Dry hands and cloth take the slime that protects it; hung by the jaw its own weight hurts it.", must=True),
    Question(
        "air", "How long may it be out of the water?",
        (("minute", "As short as it can be, well under a minute"), ("three", "Up to three minutes"), ("photo", "Until the photo is good")), "minute",
        "Put it back into the water between two steps if you are not done. Many programmes set 30 to 60 seconds; yours may set less."),
    Question(
        "where", "Where does a T-bar tag go in?",
        (("belly", "Into the belly, where it is soft"), ("tail", "Into the tail, away from organs"), ("dorsal", "Just below the dorsal fin, slanting forward")), "dorsal",
        "Between the bones that carry the dorsal fin the bar is held. Belly and gut are never pierced with this tool.", must=True),
    Question(
        "hold", "How do you know that the tag will hold?",
        (("pull", "A light pull: it does not come"), ("look", "It looks straight"), ("deep", "Nothing of the tag stands out")), "pull",
        "The bar must lie across, behind the fin's bones. If it slips, use a new tag, and record the number of the damaged one."),
    Question(
        "hand", "The needle went into your own hand. What first?",
        (("fish", "Finish the fish, it comes first"), ("wipe", "Wipe the needle and go on"), ("wash", "Fish into the water; wash and dress the wound; see a doctor if in doubt")), "wash",
        "Needles that were in fish carry germs. Clean the wound at once and report it. Your own safety comes before any fish.", must=True),
    Question(
        "needle", "Between two fish the needle is ...",
        (("nothing", "used as it is"), ("clean", "cleaned as the protocol says, covered while not in use"), ("sharp", "wiped on your trousers")), "clean",
        "A clean needle carries no disease from fish to fish, and a covered one hurts nobody."),
    Question(
        "length", "You could not use the board. What do you record?",
        (("none", "No length"), ("board", "Your estimate, as measured"), ("guess", "Your estimate, marked as estimated")), "guess",
        "An estimate is useful as long as it is marked. Marked as measured it spoils growth."),
    Question(
        "unsure", "You are not sure about one digit of the tag.",
        (("say", "Record what you could read and say so in the remarks"), ("likely", "Record the most likely one"), ("leave", "Throw the card away")), "say",
        "A wrong number ties a fish to another one's life. What is left of a number can often be found again."),
    Question(
        "permit", "Under what may you tag?",
        (("own", "Under your angling licence"), ("programme", "Under the programme's permit, for the species and waters that it names"), ("any", "Anywhere, if the fish is released")), "programme",
        "Tagging is more than angling. The permit names species, numbers and waters; local rules and closed seasons hold as well.", must=True),
    Question(
        "water", "A storm comes up while you wait for the next fish.",
        (("stay", "Tag one more"), ("leave", "Leave the water at once, life jacket closed"), ("anchor", "Anchor and wait")), "leave",
        "No fish is worth a person. Wear the life jacket, tell somebody where you are, leave before the weather comes.", must=True),
)  # fmt: skip
PRACTICE = PracticeFish(
    "P0286", 387.0, 2, "It lies still at first, then holds itself upright and swims off slowly after half a minute."
)
_BY_CODE = {each.code: each for each in QUESTIONS}


def grade(answers: Mapping[str, str], practice: Mapping[str, Any]) -> Graded:
    """Whether somebody passes.

    Args:
        answers: code of the chosen answer by code of the question; questions may be left out.
        practice: the card of the practice fish: ``number_text``, ``length`` as text with its unit, ``length_basis``, ``condition``.

    Raises:
        CoreError: ``question_unknown``, ``answer_unknown``.
    """
    for code, chosen in answers.items():
        question = _BY_CODE.get(code)
        if question is None:
            raise CoreError(
                "question_unknown", f"The course has no question '{str(code)[:30]}'. Load it again.", "answers"
            )
        if chosen not in dict(question.choices):
            raise CoreError("answer_unknown", f"'{str(chosen)[:30]}' is no answer to '{question.text}'.", "answers")
    wrong = tuple(each.code for each in QUESTIONS if answers.get(each.code) != each.right)
    missed = any(_BY_CODE[code].must for code in wrong)
    right = len(QUESTIONS) - len(wrong)
    card = _check_practice(practice)
    return Graded(
        right, len(QUESTIONS), wrong, missed, card, not missed and right >= PASS_SHARE * len(QUESTIONS) and not card
    )


def _check_practice(card: Mapping[str, Any]) -> dict[str, str]:
    wrong: dict[str, str] = {}
    if str(card.get("number_text", "")).strip().upper() != PRACTICE.number:
        wrong["number_text"] = f"The tag reads {PRACTICE.number}."
    try:
        mm = parse_length(str(card.get("length", ""))).mm
    except CoreError:
        mm = 0.0
    if abs(mm - PRACTICE.length_mm) > BOARD_ERROR_MM:
        wrong["length"] = (
            f"The board reads {PRACTICE.length_mm:g} mm, from the tip of the mouth to the end of the tail."
        )
    elif card.get("length_basis") == "estimated":
        wrong["length_basis"] = "This one was measured on the board."
    if card.get("condition") != PRACTICE.condition:
        wrong["condition"] = f"'{PRACTICE.behaviour}' That is condition {PRACTICE.condition}."
    return wrong
