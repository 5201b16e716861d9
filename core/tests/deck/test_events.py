"""What may be said of a fish, a bath and a run, and what is refused."""

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.events import EVENTS, SPECIES, kind_of, read_event
from nailwright_core.protocol import SECTIONS, shipped_protocol


def codes(section):
    if section == SPECIES:
        return {"wal", "yep"}
    return {row["code"] for row in shipped_protocol().rows(section)} | (
        {"girth"} if section == "extra_measures" else set()
    )


def a_value(field):
    """Something that fits."""
    if field.section:
        code = sorted(codes(field.section))[0]
        return [code] if field.many else code
    column = field.field
    if column.choices:
        return column.choices[0][0]
    return column.high if column.kind in ("number", "whole") else "x" * min(column.longest, 5)


@pytest.mark.parametrize("code", sorted(EVENTS))
def test_each_kind_takes_what_it_asks_for_and_nothing_else(code):
    kind = EVENTS[code]
    details = {each.field.name: a_value(each) for each in kind.fields}
    assert read_event(kind, details, codes) == details
    needed = {each.field.name: details[each.field.name] for each in kind.fields if each.field.needed}
    if needed or not kind.fields:
        assert read_event(kind, needed, codes) == needed
    with pytest.raises(CoreError) as refused:
        read_event(kind, {**details, "colour-of-the-boat": "red"}, codes)
    assert refused.value.code == "field_unknown"
    for each in kind.fields:
        for wrong in (True, {"a": 1}, 1e300, "x" * 500, ["no-such-code"]):
            with pytest.raises(CoreError) as refused:
                read_event(kind, {**details, each.field.name: wrong}, codes)
            assert refused.value.field == each.field.name


def test_sections_that_events_name_are_there():
    named = {each.section for kind in EVENTS.values() for each in kind.fields if each.section} - {SPECIES}
    assert named and all("code" in SECTIONS[each].column for each in named)


@pytest.mark.parametrize(
    ("code", "details", "refusal"),
    [
        ("reflexes", {"tried": ["gills"], "impaired": ["bite"]}, "reflex_not_tried"),
        ("step", {"step": "sutured", "done": "skipped"}, "reason_missing"),
        ("bath_filled", {"bath": "Bath", "agent": "tricaine", "purpose": "surgery", "litres": 0}, "number_out_of_range"),
        ("bath_filled", {"bath": "Bath", "agent": "tricaine", "purpose": "surgery"}, "value_missing"),
        ("bath_filled", {"bath": "Bath", "agent": "none", "purpose": "calm", "litres": 5, "kept_l": 6}, "bath_out_of_range"),
        ("let_go", {"lat": 3.0}, "position_half"),
        ("let_go", {}, "event_empty"),
        ("sent_down", {"device": "cage", "let_go_m": 40, "bottom_m": 30}, "deeper_than_bottom"),
        ("weighed", {"n": 5, "mass_g": 100, "measured": 6}, "counts_wrong"),
        ("lane", {"lane": "moon"}, "code_unknown"),
        ("signs", {"signs": "eyes"}, "not_a_choice"),
    ],
)  # fmt: skip
def test_what_cannot_be_so_is_refused(code, details, refusal):
    with pytest.raises(CoreError) as refused:
        read_event(EVENTS[code], details, codes)
    assert refused.value.code == refusal


@pytest.mark.parametrize(
    "code", sorted(code for code, kind in EVENTS.items() if not any(each.field.needed for each in kind.fields))
)
def test_what_says_something_with_no_field_said(code):
    """Signs that were looked for and none seen, a spot that was fed; a place of which nothing is told says nothing."""
    kind = EVENTS[code]
    if kind.bare or not kind.fields:
        assert read_event(kind, {}, codes) == {}
    else:
        with pytest.raises(CoreError, match="at least one thing said"):
            read_event(kind, {}, codes)


def test_unknown_kinds():
    for code in ("dance", None, 3, ["lane"]):
        with pytest.raises(CoreError, match="Nothing is said"):
            kind_of(code)
