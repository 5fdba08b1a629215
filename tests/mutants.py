"""`make mutants`: breaks all of Python but the pages of `site` on purpose, one small break at a time, and counts what is noticed.

Each break is tried in a copy, with the tests that run over its line (those that run over its file, where a line is run
only while modules are loaded), the quickest first. What survives is listed.
`python -m tests.mutants 0.05 7` takes a twentieth of all breaks, drawn with the seed 7.
"""

from __future__ import annotations

import ast
import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
import xml.etree.ElementTree as ET
from collections import defaultdict
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).parents[1]
PLACES = ("core", "sound", "formats", "storage", "presentation", "api")
SWAPS = {
    ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "==", ast.Is: "is not",
    ast.IsNot: "is", ast.In: "not in", ast.NotIn: "in", ast.Add: "-", ast.Sub: "+", ast.Mult: "/", ast.Div: "*",
    ast.FloorDiv: "*", ast.And: "or", ast.Or: "and",
}  # fmt: skip
NAMES = {"min": "max", "max": "min", "minimum": "maximum", "maximum": "minimum", "any": "all", "all": "any"}
WORDS = {"left": "right", "right": "left"}
LONGEST = 45.0  # seconds of tests for one break
WORKERS = 2
SURROUNDINGS = {"CI": "1", "VELMOT_EXAMPLES": "25", "PYTHONDONTWRITEBYTECODE": "1"}


@dataclass(frozen=True)
class Break:
    """One small change of one line."""

    file: str
    line: int
    start: int
    end: int
    text: str

    def said(self, source: bytes) -> str:
        return f"{self.file}:{self.line}  {source[self.start : self.end].decode()!r} → {self.text!r}"


def breaks_of(file: Path) -> list[Break]:
    """Every break of a file that is known here."""
    source = file.read_bytes()
    lines = [0]
    for line in source.splitlines(keepends=True):
        lines.append(lines[-1] + len(line))
    name = str(file.relative_to(ROOT))
    found: list[Break] = []

    def spot(node: ast.AST) -> tuple[int, int]:
        return lines[node.lineno - 1] + node.col_offset, lines[node.end_lineno - 1] + node.end_col_offset

    def put(node: ast.AST, start: int, end: int, text: str) -> None:
        found.append(Break(name, node.lineno, start, end, text))

    def between(one: ast.AST, other: ast.AST, op: ast.AST, sign: str | None) -> None:
        if sign:
            a, b = spot(one)[1], spot(other)[0]
            middle = source[a:b].decode()
            head = middle[: len(middle) - len(middle.lstrip(" )\n"))]
            tail = middle[len(middle.rstrip(" (\n")) :]
            put(op if hasattr(op, "lineno") else one, a, b, f"{head}{sign}{tail}")

    def visit(node: ast.AST) -> None:
        if isinstance(node, ast.Compare) and len(node.ops) == 1:
            between(node.left, node.comparators[0], node.ops[0], SWAPS.get(type(node.ops[0])))
        elif isinstance(node, ast.BinOp):
            between(node.left, node.right, node.op, SWAPS.get(type(node.op)))
        elif isinstance(node, ast.BoolOp):
            between(node.values[0], node.values[1], node.op, SWAPS[type(node.op)])
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            put(node, spot(node)[0], spot(node)[0] + len("not "), "")
        elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
            put(node, *spot(node), str(not node.value))
        elif isinstance(node, ast.Constant) and isinstance(node.value, int | float):
            put(node, *spot(node), f"({source[slice(*spot(node))].decode()} + 1)")
        elif isinstance(node, ast.Constant) and node.value in WORDS:
            put(node, *spot(node), f'"{WORDS[node.value]}"')
        elif isinstance(node, ast.Name) and node.id in NAMES:
            put(node, *spot(node), NAMES[node.id])
        elif isinstance(node, ast.Attribute) and node.attr in NAMES:
            put(node, spot(node)[1] - len(node.attr), spot(node)[1], NAMES[node.attr])
        elif (isinstance(node, ast.Expr) and isinstance(node.value, ast.Call)) or isinstance(node, ast.AugAssign):
            put(node, *spot(node), "pass")
        for child_name, child in ast.iter_fields(node):
            if child_name in ("annotation", "returns", "decorator_list"):
                continue
            for part in child if isinstance(child, list) else [child]:
                if isinstance(part, ast.AST) and not isinstance(part, ast.JoinedStr):
                    visit(part)

    visit(ast.parse(source))
    return found


def copied(folder: Path) -> Path:
    """A copy of what the tests need."""
    for part in ("src", "tests", "docs", "frontend/src", "frontend/dist", "frontend/package.json", "pyproject.toml"):
        source = ROOT / part
        skipped = shutil.ignore_patterns("__pycache__", "*.egg-info", "screenshots")
        if source.is_dir():
            shutil.copytree(source, folder / part, ignore=skipped)
        else:
            (folder / part).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy(source, folder / part)
    return folder


def run(folder: Path, *command: str, seconds: float = 900) -> int:
    surroundings = os.environ | SURROUNDINGS | {"VELMOT_DATA": str(folder / "data"), "PYTHONPATH": "src:."}
    process = subprocess.Popen(
        [sys.executable, "-m", *command],
        cwd=folder,
        env=surroundings,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    try:
        return process.wait(seconds)
    except subprocess.TimeoutExpired:
        os.killpg(process.pid, 9)
        process.wait()
        return -1


def covering(folder: Path) -> tuple[dict[str, dict[int, list[str]]], dict[str, float]]:
    """(file → line → tests that run over it, test → seconds), found by running all of them once."""
    (folder / ".coveragerc").write_text("[run]\nsource = src/velmot\ndynamic_context = test_function\n")
    code = run(
        folder,
        "coverage",
        "run",
        "-m",
        "pytest",
        "tests",
        "--ignore=tests/browser",
        "--junitxml=times.xml",
        "-p",
        "no:xdist",
        seconds=1800,
    )
    if code:
        sys.exit(f"the tests do not pass as they are (exit status {code})")
    run(folder, "coverage", "json", "--show-contexts", "-o", "covered.json")
    known = json.loads((folder / "covered.json").read_text())["files"]
    lines: dict[str, dict[int, list[str]]] = defaultdict(dict)
    for file, data in known.items():
        for line, contexts in data["contexts"].items():
            lines[file][int(line)] = [c for c in contexts if ".test_" in c]
    seconds: dict[str, float] = defaultdict(float)
    for case in ET.parse(folder / "times.xml").iter("testcase"):
        seconds[f"{case.get('classname')}.{(case.get('name') or '').partition('[')[0]}"] += float(case.get("time") or 0)
    return lines, seconds


def node_of(test: str) -> str:
    """A test's dotted name as pytest takes it."""
    parts = test.split(".")
    at = next(i for i, part in enumerate(parts) if part.startswith("test_"))
    return "/".join(parts[: at + 1]) + ".py::" + "::".join(parts[at + 1 :])


def main(share: float = 0.02, seed: int = 1) -> None:
    """Try a share of all breaks and print the score, place by place, and every survivor."""
    files = [
        f
        for place in PLACES
        for f in sorted((ROOT / "src/velmot" / place).rglob("*.py"))
        if "migrations" not in f.parts
    ]
    every = [b for f in files for b in breaks_of(f)]
    some = random.Random(seed).sample(every, max(int(len(every) * share), 1))
    with tempfile.TemporaryDirectory() as base:
        folders: Queue[Path] = Queue()
        for n in range(WORKERS):
            folders.put(copied(Path(base) / str(n)))
        first = folders.get()
        lines, seconds = covering(first)
        folders.put(first)
        outcomes: dict[str, list[Break]] = defaultdict(list)

        def attempt(one: Break) -> None:
            tests, total = [], 0.0
            over = lines[one.file].get(one.line) or {t for some in lines[one.file].values() for t in some}
            for test in sorted(over, key=lambda t: (seconds.get(t, 1.0), t)):
                total += seconds.get(test, 1.0)
                if total < LONGEST or not tests:
                    tests.append(node_of(test))
            if not tests:
                outcomes["not run over"].append(one)
                return
            folder = folders.get()
            path = folder / one.file
            source = path.read_bytes()
            path.write_bytes(source[: one.start] + one.text.encode() + source[one.end :])
            code = run(folder, "pytest", "-x", "-q", *tests, seconds=4 * LONGEST)
            path.write_bytes(source)
            folders.put(folder)
            outcomes["survived" if code == 0 else "noticed"].append(one)

        with ThreadPoolExecutor(WORKERS) as pool:
            list(pool.map(attempt, some))
    for outcome in ("survived", "not run over"):
        for one in sorted(outcomes[outcome], key=lambda b: (b.file, b.line)):
            print(f"{outcome}: {one.said((ROOT / one.file).read_bytes())}")
    for place in PLACES:
        tried = {k: sum(f"/{place}/" in b.file for b in v) for k, v in outcomes.items()}
        print(f"{place}: {tried.get('noticed', 0)} of {sum(tried.values())} noticed")
    print(f"in all {len(outcomes['noticed'])} of {len(some)} noticed ({len(every)} breaks known)")


if __name__ == "__main__":
    main(*(kind(text) for kind, text in zip((float, int), sys.argv[1:], strict=False)))
