"""What server, demo, stand-ins, measurements and tests import stands in requirements.in, not only in what something else brings."""

from __future__ import annotations

import ast
import re
import sys
from importlib.metadata import packages_distributions
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
OURS = {"nailwright", "nailwright_core", "demo", "bench", "standins", "tests", "core", "server"}


def imported() -> dict[str, str]:
    """Top-level names with a file that imports each."""
    names: dict[str, str] = {}
    for folder in ("core", "server", "demo", "standins", "bench", "tests"):
        for file in (ROOT / folder).rglob("*.py"):
            for node in ast.walk(ast.parse(file.read_text())):
                if isinstance(node, ast.Import):
                    names |= {each.name.split(".")[0]: str(file) for each in node.names}
                elif isinstance(node, ast.ImportFrom) and not node.level and node.module:
                    names[node.module.split(".")[0]] = str(file)
    return names


def test_nothing_is_imported_that_is_not_named() -> None:
    lines = (ROOT / "requirements.in").read_text().splitlines()
    named = {
        re.split(r"[<>=\[; ]", line)[0].lower().replace("_", "-") for line in lines if line and line[0] not in "#-"
    }
    of = packages_distributions()
    unnamed = {
        name: file
        for name, file in imported().items()
        if name not in sys.stdlib_module_names
        and name not in OURS
        and not {each.lower().replace("_", "-") for each in of.get(name, [])} & named
        and not (ROOT / "tests" / "shared" / f"{name}.py").exists()
    }
    assert unnamed == {}
