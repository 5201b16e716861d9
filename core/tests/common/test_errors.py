"""The error that crosses rooms."""

import pickle

from nailwright_core.common.errors import CoreError


def test_error_survives_pickling() -> None:
    error = pickle.loads(pickle.dumps(CoreError("length_empty", "Expected a length; got nothing.", "length")))
    assert (error.code, error.message, error.field) == ("length_empty", "Expected a length; got nothing.", "length")
    assert str(error) == "Expected a length; got nothing."
