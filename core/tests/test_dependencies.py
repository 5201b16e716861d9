"""Core imports the standard library, itself, and what its own pyproject declares."""

from __future__ import annotations

import ast
import re
import sys
import tomllib
from pathlib import Path

CORE = Path(__file__).resolve().parents[1]


def imported() -> set[str]:
    """Top-level names of all that core imports, wherever in a module that stands."""
    names: set[str] = set()
    for file in (CORE / "nailwright_core").rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.Import):
                names |= {each.name.split(".")[0] for each in node.names}
            elif isinstance(node, ast.ImportFrom) and not node.level and node.module:
                names.add(node.module.split(".")[0])
    return names


def test_what_core_imports_is_declared_and_what_is_declared_is_imported() -> None:
    project = tomllib.loads((CORE / "pyproject.toml").read_text())["project"]
    extras = [each for group in project.get("optional-dependencies", {}).values() for each in group]
    declared = {re.split(r"[<>=\[; ]", each)[0] for each in [*project["dependencies"], *extras]}
    assert imported() - set(sys.stdlib_module_names) - {"nailwright_core"} == declared
