"""What the framework says of a value that it refuses, in this application's words: what was expected, and where it helps, what was got."""

from __future__ import annotations

import re

_NO_VALUE = "Expected a value; got none."
_WORDS: tuple[tuple[re.Pattern[str], str], ...] = tuple(
    (re.compile(pattern), words)
    for pattern, words in (
        (r"^This field (?:is required|may not be (?:null|blank))\.$", _NO_VALUE),
        (r"^This list may not be empty\.$", "Expected at least one; got none."),
        (r"^A valid integer is required\.$", "Expected a whole number."),
        (r"^A valid number is required\.$", "Expected a number."),
        (r"^Date has wrong format\.", "Expected a day as YYYY-MM-DD, such as 2026-05-03."),
        (
            r"^Expected a date but got a datetime\.$",
            "Expected a day as YYYY-MM-DD, such as 2026-05-03; got a time as well.",
        ),
        (r"^Datetime has wrong format\.", "Expected a time with its zone, such as 2026-05-03T20:15:00Z."),
        (
            r"^Expected a datetime but got a date\.$",
            "Expected a time with its zone, such as 2026-05-03T20:15:00Z; got a day.",
        ),
        (r"^Time has wrong format\.", "Expected a time of day, such as 21:40."),
        (r"^Must be a valid boolean\.$", "Expected true or false."),
        (r"^Must be a valid UUID\.$", "Expected a key, such as 01900000-0000-7000-8000-000000000001."),
        (r"^.(.*). is not a valid UUID\.$", "Expected a key, such as 01900000-0000-7000-8000-000000000001; got '\\1'."),
        (r"^Enter a valid email address\.$", "Expected a mail address, such as ida@example.org."),
        (r"^Not a valid string\.$", "Expected text."),
        (r"^Invalid data\. Expected a dictionary, but got (.*)\.$", "Expected an object with its fields; got \\1."),
        (r'^Expected a list of items but got type "(.*)"\.$', "Expected a list; got \\1."),
        (r'^Expected a dictionary of items but got type "(.*)"\.$', "Expected names with values; got \\1."),
        (r"^Ensure this field has no more than (\d+) (characters|elements)\.$", "Expected at most \\1 \\2."),
        (r"^Ensure this field has at least (\d+) (characters|elements)\.$", "Expected at least \\1 \\2."),
        (r"^Ensure this value is less than or equal to (.*)\.$", "Expected at most \\1."),
        (r"^Ensure this value is greater than or equal to (.*)\.$", "Expected at least \\1."),
        (r'^"(.*)" is not a valid choice\.$', "'\\1' is none of the choices."),
        (r"^The submitted data was not a file\.", "Expected a file."),
        (r"^The submitted file is empty\.$", "Expected a file with something in it; got an empty one."),
        (r"^No file was submitted\.$", "Expected a file; got none."),
    )
)


def in_own_words(message: str) -> str:
    """A refusal of the framework in our words; any other message as it is.

    Args:
        message: as a serializer refuses a value.
    """
    for pattern, words in _WORDS:
        if pattern.search(message):
            return pattern.sub(words, message) if pattern.pattern.endswith("$") else words
    return message
