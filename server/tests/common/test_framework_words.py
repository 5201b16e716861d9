"""No framework speaks to a person: each of its refusals is put into our words."""

from __future__ import annotations

import re
from typing import Any

import pytest
from rest_framework import serializers

from nailwright.common.framework_words import in_own_words


class Everything(serializers.Serializer):
    whole = serializers.IntegerField(min_value=1, max_value=9, required=False)
    number = serializers.FloatField(min_value=0.5, required=False)
    day = serializers.DateField(required=False)
    at = serializers.DateTimeField(required=False)
    hour = serializers.TimeField(required=False)
    yes = serializers.BooleanField(required=False)
    key = serializers.UUIDField(required=False)
    mail = serializers.EmailField(required=False)
    text = serializers.CharField(min_length=2, max_length=5, required=False)
    choice = serializers.ChoiceField(["a", "b"], required=False)
    many = serializers.ListField(child=serializers.CharField(), allow_empty=False, max_length=2, required=False)
    inner = serializers.DictField(required=False)
    must = serializers.CharField()


@pytest.mark.parametrize(
    ("given", "field", "words"),
    [
        ({}, "must", "Expected a value; got none."),
        ({"must": None}, "must", "Expected a value; got none."),
        ({"must": " "}, "must", "Expected a value; got none."),
        ({"must": []}, "must", "Expected text."),
        ({"whole": "x"}, "whole", "Expected a whole number."),
        ({"whole": 10}, "whole", "Expected at most 9."),
        ({"whole": 0}, "whole", "Expected at least 1."),
        ({"number": "x"}, "number", "Expected a number."),
        ({"number": 0.1}, "number", "Expected at least 0.5."),
        ({"day": "3.5.2026"}, "day", "Expected a day as YYYY-MM-DD, such as 2026-05-03."),
        ({"at": "noon"}, "at", "Expected a time with its zone, such as 2026-05-03T20:15:00Z."),
        ({"hour": "late"}, "hour", "Expected a time of day, such as 21:40."),
        ({"yes": "maybe"}, "yes", "Expected true or false."),
        ({"key": "7"}, "key", "Expected a key, such as 01900000-0000-7000-8000-000000000001."),
        ({"mail": "ida"}, "mail", "Expected a mail address, such as ida@example.org."),
        ({"text": "walleye"}, "text", "Expected at most 5 characters."),
        ({"text": "w"}, "text", "Expected at least 2 characters."),
        ({"choice": "c"}, "choice", "'c' is none of the choices."),
        ({"many": []}, "many", "Expected at least one; got none."),
        ({"many": ["a", "b", "c"]}, "many", "Expected at most 2 elements."),
        ({"many": "a"}, "many", "Expected a list; got str."),
        ({"inner": 3}, "inner", "Expected names with values; got int."),
    ],
)
def test_a_refusal_is_in_our_words(given: dict[str, Any], field: str, words: str) -> None:
    serializer = Everything(data={"must": "here", **given} if "must" not in given and given else given)
    assert not serializer.is_valid()
    assert in_own_words(str(serializer.errors[field][0])) == words


def test_what_is_no_refusal_of_the_framework_stays() -> None:
    assert in_own_words("Expected a fish.") == "Expected a fish."
    assert not re.search("valid", in_own_words("“7” is not a valid UUID."))
