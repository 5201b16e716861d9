"""PIT numbers as typed and as frames."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.countries import COUNTRY_CODES
from nailwright_core.tags.pit import MAX_IDENTIFIER, PitCode, decode_fdxb, encode_fdxb, parse_pit

codes = st.builds(
    PitCode,
    country=st.sampled_from([*sorted(COUNTRY_CODES), *range(900, 1000)]),
    identifier=st.integers(0, MAX_IDENTIFIER),
)


@given(codes)
def test_what_is_written_is_read_back(code: PitCode) -> None:
    assert decode_fdxb(encode_fdxb(code)) == code
    assert parse_pit(code.decimal15) == parse_pit(code.hex16) == parse_pit(encode_fdxb(code)) == code


@given(codes, st.integers(0, 127))
def test_one_wrong_bit_is_never_read_as_another_fish(code: PitCode, place: int) -> None:
    bits = encode_fdxb(code)
    spoiled = bits[:place] + ("1" if bits[place] == "0" else "0") + bits[place + 1 :]
    try:
        assert decode_fdxb(spoiled) == code  # a bit of the trailer says nothing of the number
        assert place >= 101
    except CoreError as refused:
        assert refused.code in ("pit_frame", "pit_crc", "pit_country")


@pytest.mark.parametrize("text", ["999 000000012345", "999.000000012345", "999-000000012345", " 999000000012345\n"])
def test_signs_between_digits_are_passed_over(text: str) -> None:
    assert parse_pit(text).decimal15 == "999000000012345"


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "pit_empty"),
        ("  ", "pit_empty"),
        ("99900000001234", "pit_length"),
        ("99900000001234567", "pit_length"),
        ("wal 469", "pit_unreadable"),
        ("000000000012345", "pit_country"),
        ("123000000012345", "pit_country"),
        ("999274877906944", "pit_identifier"),
        ("9" * 400, "pit_length"),
        ("0" * 128, "pit_frame"),
    ],
)
def test_what_is_no_pit_number_is_refused_with_what_was_read(text: str, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        parse_pit(text)
    assert (refused.value.code, refused.value.field) == (code, "pit")
    assert len(refused.value.message) < 250


@given(st.text(max_size=200))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        assert len(parse_pit(text).decimal15) == 15
    except CoreError as refused:
        assert refused.field == "pit"
