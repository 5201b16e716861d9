"""Rooms of a size that one can hold in mind: no folder of more than 25 files, no file of more than 400 lines."""

from __future__ import annotations

import ast
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
MOST_FILES, MOST_LINES, MOST_OF_A_FUNCTION = 25, 400, 60
#: What is larger still; each leaves this list when it is parted, and none comes onto it.
LARGE_FOLDERS = {"tests/shared", "docs/decisions"}
LARGE_FILES = {
    "server/tests/records/test_imports.py",
    "server/tests/programmes/test_permissions.py", "server/tests/gateway/test_gateway.py", "server/tests/plan/test_plan.py", "core/tests/plan/test_plan.py",
    "web/src/features/deck/document/deck-store.test.ts",
    "server/tests/programmes/test_no_leak.py", "server/tests/records/test_archive_hostile.py",
}  # fmt: skip


def sources() -> list[str]:
    return [
        str(each.relative_to(ROOT))
        for room in ("core", "server", "web/src", "tests", "bench", "demo", "standins", "docs")
        for each in (ROOT / room).rglob("*")
        if each.suffix in (".py", ".ts", ".tsx", ".md", ".json")
        and ".gen." not in each.name
        and not {"migrations", "__pycache__"} & set(each.parts)
    ]


def test_no_folder_is_too_large() -> None:
    counts = Counter(str(Path(each).parent) for each in sources())
    assert {folder for folder, n in counts.items() if n > MOST_FILES} <= LARGE_FOLDERS


def test_no_file_is_too_long() -> None:
    code = [each for each in sources() if each.endswith((".py", ".ts", ".tsx"))]
    long = {each for each in code if len((ROOT / each).read_text().splitlines()) > MOST_LINES}
    assert long <= LARGE_FILES
    assert {each for each in LARGE_FILES if (ROOT / each).exists()} == LARGE_FILES  # a name that is gone says nothing


def test_no_function_is_too_long() -> None:
    """Docstrings aside; those of the screens are held to it by Biome."""
    long = []
    for each in sources():
        if not each.endswith(".py") or "/tests/" in each or each.startswith(("tests/", "bench/")):
            continue
        for node in ast.walk(ast.parse((ROOT / each).read_text())):
            if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                body = node.body[1:] if ast.get_docstring(node) and len(node.body) > 1 else node.body
                if (node.end_lineno or 0) - body[0].lineno >= MOST_OF_A_FUNCTION:
                    long.append(f"{each}: {node.name}")
    assert long == []
