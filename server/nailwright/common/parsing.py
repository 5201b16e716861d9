"""Reading what a request brings, once for all endpoints: what no view and no column could hold stops here."""

from __future__ import annotations

import json
import math
from typing import IO, Any

from django.core.exceptions import RequestDataTooBig
from rest_framework.exceptions import ParseError
from rest_framework.parsers import BaseParser, MultiPartParser
from rest_framework.renderers import JSONRenderer

from nailwright_core.common.errors import CoreError

#: Levels that a body may nest; the deepest of ours has nine.
MAX_DEPTH = 40
#: Whole numbers from here on are no count, no measurement and no column's.
_FAR = 2**63


class Body(BaseParser):
    """JSON as our endpoints take it: plain, finite, not nested without end, texts in whole characters.

    Half a character, as a cut emoji leaves it, becomes U+FFFD, as a browser does where it turns a text to UTF-8 (WHATWG
    Encoding): a note with it is kept. What is no number or nests without end is refused with its place.
    """

    media_type = "application/json"
    renderer_class = JSONRenderer

    def parse(self, stream: IO[Any], media_type: Any = None, parser_context: Any = None) -> Any:
        try:
            text = stream.read().decode("utf-8")
            return whole(json.loads(text, parse_constant=_no_number, parse_int=_whole_number, parse_float=_number))
        except RequestDataTooBig as error:
            raise CoreError("body_too_large", "The request is too large; send it in smaller parts.") from error
        except (ValueError, RecursionError) as error:
            raise ParseError from error


class Form(MultiPartParser):
    """A form with a file; its texts in whole characters."""

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        read = super().parse(stream, media_type, parser_context)
        files: Any = read.files
        for upload in files.values():
            upload.name = whole_text(upload.name or "")
        return read


def whole(value: Any, depth: int = 0) -> Any:
    """The same value with every text and every key in whole characters.

    Raises:
        ParseError: where it nests deeper than ``MAX_DEPTH``.
    """
    if isinstance(value, str):
        return whole_text(value)
    if not isinstance(value, list | dict):
        return value
    if depth == MAX_DEPTH:
        raise ParseError
    if isinstance(value, list):
        return [whole(each, depth + 1) for each in value]
    return {whole_text(key): whole(each, depth + 1) for key, each in value.items()}


def whole_text(text: str) -> str:
    """The text with U+FFFD for half characters."""
    if text.isascii():
        return text
    return text.encode("utf-16-le", "surrogatepass").decode("utf-16-le", "replace")


def _no_number(name: str) -> Any:
    raise ValueError(f"{name} is no number")


def _whole_number(text: str) -> int:
    if len(text) > 20 or not -_FAR <= (value := int(text)) < _FAR:
        raise ValueError("a whole number beyond 64 bits")
    return value


def _number(text: str) -> float:
    if not math.isfinite(value := float(text)):
        raise ValueError("a number beyond the largest")
    return value
