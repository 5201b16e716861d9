"""When the tagging course is passed."""

from __future__ import annotations

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.course import PASS_SHARE, PRACTICE, QUESTIONS, grade

RIGHT = {each.code: each.right for each in QUESTIONS}
CARD = {"number_text": "P0286", "length": "387 mm", "length_basis": "measured", "condition": 2}
PLAIN = [each.code for each in QUESTIONS if not each.must]


def wrong(code: str) -> dict[str, str]:
    question = next(each for each in QUESTIONS if each.code == code)
    return {code: next(answer for answer, _ in question.choices if answer != question.right)}


def test_every_question_has_one_right_answer_among_its_choices() -> None:
    assert len(RIGHT) == len(QUESTIONS) >= 12
    for each in QUESTIONS:
        codes = [code for code, _ in each.choices]
        assert each.right in codes and len(set(codes)) == len(codes) >= 3 and each.why
    # no pattern by which one passes without reading
    places = [[code for code, _ in each.choices].index(each.right) for each in QUESTIONS]
    assert all(places.count(place) <= len(QUESTIONS) * 0.6 for place in range(3))


def test_all_right_passes() -> None:
    told = grade(RIGHT, CARD)
    assert (told.right, told.n, told.wrong, told.practice, told.passed) == (
        len(QUESTIONS),
        len(QUESTIONS),
        (),
        {},
        True,
    )


def test_one_fifth_may_be_wrong_and_no_more() -> None:
    may = int(len(QUESTIONS) * (1 - PASS_SHARE))
    slips = {code: answer for each in PLAIN[:may] for code, answer in wrong(each).items()}
    assert grade({**RIGHT, **slips}, CARD).passed
    assert not grade({**RIGHT, **slips, **wrong(PLAIN[may])}, CARD).passed
    left_out = {code: answer for code, answer in RIGHT.items() if code not in PLAIN[: may + 1]}
    assert grade(left_out, CARD).wrong == tuple(each.code for each in QUESTIONS if each.code in PLAIN[: may + 1])


@pytest.mark.parametrize("code", [each.code for each in QUESTIONS if each.must])
def test_what_can_hurt_must_be_right(code: str) -> None:
    told = grade({**RIGHT, **wrong(code)}, CARD)
    assert told.missed_must and not told.passed and told.wrong == (code,)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"number_text": "P0268"}, "number_text"),
        ({"number_text": ""}, "number_text"),
        ({"length": "378 mm"}, "length"),
        ({"length": ""}, "length"),
        ({"length": "long"}, "length"),
        ({"length_basis": "estimated"}, "length_basis"),
        ({"condition": 1}, "condition"),
        ({"condition": None}, "condition"),
    ],
)
def test_the_practice_card_says_what_the_drawing_shows(change: dict[str, object], field: str) -> None:
    told = grade(RIGHT, {**CARD, **change})
    assert list(told.practice) == [field] and not told.passed


@pytest.mark.parametrize("length", ["387", "38.7 cm", "388 mm", "15 1/4 in"])
def test_the_board_is_read_in_any_unit_to_three_millimetres(length: str) -> None:
    # 15 1/4 in is 387.35 mm
    assert grade(RIGHT, {**CARD, "length": length, "number_text": " p0286 "}).passed
    assert PRACTICE.length_mm == 387.0


@pytest.mark.parametrize(
    ("answers", "code"), [({"moon": "x"}, "question_unknown"), ({"before": "x"}, "answer_unknown")]
)
def test_what_is_no_answer_is_refused(answers: dict[str, str], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        grade(answers, CARD)
    assert refused.value.code == code
