"""Files opened as tables, before anything is known of fish."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nailwright.common.sources import csv_file, open_table
from nailwright.records.mapping import date_evidence
from nailwright_core.common.errors import CoreError


def rows_of(text: str | bytes) -> list[tuple[int, list[str]]]:
    return list(open_table(text.encode() if isinstance(text, str) else text).lines())


@pytest.mark.parametrize(("mark", "name"), [(",", "comma"), (";", "semicolon"), ("\t", "tab"), ("|", "bar")])
def test_separators_are_found(mark: str, name: str) -> None:
    table = open_table(f"species{mark}length\nwal{mark}463\nyep{mark}210\n".encode())
    assert table.how.endswith(name) and table.headers == ("species", "length")
    assert [cells for _, cells in table.lines()] == [["wal", "463"], ["yep", "210"]]


def test_decimal_commas_do_not_pass_for_separators() -> None:
    table = open_table(b"species;length;mass\nwal;46,3;1,12\nyep;21,2;0,11\n")
    assert table.headers == ("species", "length", "mass")


def test_titles_blank_lines_and_line_numbers() -> None:
    table = open_table(b"Spring round 2024\n\nspecies,length\nwal,463\n\n\nyep,210\n")
    assert table.headers == ("species", "length") and "1 line above" in table.notices[0]
    assert list(table.lines()) == [(4, ["wal", "463"]), (7, ["yep", "210"])]
    assert list(table.lines()) == list(table.lines())  # as often as wanted


def test_quoted_cells_may_hold_anything_but_a_lost_mark() -> None:
    assert rows_of('species,note\nwal,"scar, left; ""old""\nhealed"\nyep,x\n') == [
        (2, ["wal", 'scar, left; "old"\nhealed']),
        (4, ["yep", "x"]),
    ]
    with pytest.raises(CoreError) as refused:
        rows_of('species,note\nwal,ok\nyep,"lost\n' + "wal,x\n" * 50)
    assert refused.value.code == "quote_unclosed" and "Line 3" in refused.value.message


def test_windows_and_old_mac_line_ends() -> None:
    assert rows_of("species,length\r\nwal,463\r\nyep,210") == [(2, ["wal", "463"]), (3, ["yep", "210"])]


def test_names_that_are_missing_or_doubled() -> None:
    table = open_table(b"species,,length,length,\nwal,x,463,470\n")
    assert table.headers == ("species", "Column 2", "length", "length (2)")


@pytest.mark.parametrize("letters", ["Weiße Äsche", "naïve café", "Mjøsa"])
def test_letters_survive_each_encoding(letters: str) -> None:
    text = f"species,note\nwal,{letters}\n"
    for encoding in ("utf-8", "utf-8-sig", "utf-16", "latin-1"):
        assert rows_of(text.encode(encoding)) == [(2, ["wal", letters])]


CELL = st.text(
    st.characters(codec="utf-8", exclude_characters='\x00\r\n"', exclude_categories=["Cc", "Cs"]), max_size=12
)


@given(st.lists(st.lists(CELL.map(str.strip), min_size=3, max_size=3).filter(any), min_size=1, max_size=20))
def test_whatever_is_written_as_csv_is_read_again(rows: list[list[str]]) -> None:
    def quoted(cells: list[str]) -> str:
        return ",".join(f'"{cell}"' for cell in cells)

    text = "\n".join(["alpha,beta,gamma", *map(quoted, rows)])
    read = [cells for _, cells in csv_file._lines(text, ",")]
    assert read[1:] == rows


@settings(max_examples=400)
@given(st.binary(max_size=400) | st.text(max_size=200).map(str.encode))
def test_no_bytes_make_it_fail(content: bytes) -> None:
    try:
        table = open_table(content)
    except CoreError as refused:
        assert refused.field == "file" and refused.message
    else:
        assert table.headers and table.how


@pytest.mark.parametrize("content", ["\x85\x85".encode(), "\u2028\n\x1c".encode(), b"a,b\n" + b"x" * 300_000 + b",1\n"])
def test_odd_blanks_and_enormous_cells(content: bytes) -> None:
    with pytest.raises(CoreError):
        rows_of(content)


def test_what_dates_tell() -> None:
    assert date_evidence(["13/04/2024", "04/13/2024", "3/4/2024", "x", "2024-01-02"]) == (1, 1)
    assert date_evidence([]) == (0, 0)
