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
        ("wal 463", "pit_unreadable"),
        ("000000000012345", "pit_country"),
        ("123000000012345", "pit_country"),
        ("999274877906944", "pit_identifier"),
        ("9" * 400, "pit_length"),
        ("9990000000123455", "pit_length"),
        ("7FFFF9C000003039", "pit_flags"),
        ("8002F9C000003039", "pit_flags"),
        ("3E7.FFFFFFFFFF", "pit_identifier"),
        ("07B.0000000001", "pit_country"),
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


@given(codes, st.integers(0, 14), st.integers(0, 9))
def test_a_digit_too_many_is_never_read_as_another_number(code: PitCode, place: int, digit: int) -> None:
    """Before, 35 of 100 such slips were read as 16 hexadecimal digits; now only what says that it is an animal's."""
    slip = code.decimal15[:place] + str(digit) + code.decimal15[place:]
    try:
        read = parse_pit(slip)
    except CoreError as refused:
        assert refused.code in ("pit_length", "pit_country", "pit_flags")
    else:
        assert slip[:4] in ("8000", "8001") and read.hex16[4:] == slip[4:]


@given(codes)
def test_a_hexadecimal_manufacturer_before_a_point(code: PitCode) -> None:
    assert parse_pit(f"{code.country:03X}.{code.identifier:010x}") == code


def test_flags_of_a_frame_are_told_and_not_taken_for_a_fish() -> None:
    industrial = PitCode(999, 12345, animal=False)
    assert decode_fdxb(encode_fdxb(industrial)) == industrial
    with pytest.raises(CoreError) as refused:
        parse_pit(encode_fdxb(industrial))
    assert refused.value.code == "pit_flags"
