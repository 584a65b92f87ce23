"""Break the core one place at a time and see whether its tests notice.

    ./pantry mutate [--each 20] [--seed 1] [--only dietetics.week]

Every package of `dietetics/` gives so many places by chance: a comparison, an operator, a constant,
a guard. A place is broken in a copy of the code, and the tests that walk through its line are run
there until one fails. What none notices is printed. The first run of a version of the code maps
which test walks through which line (some minutes).
"""

from __future__ import annotations

import argparse
import ast
import copy
import hashlib
import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CORE = ROOT / "dietetics"
TESTS = ("dietetics/tests", "headless/tests")
COPIED = ("dietetics", "headless")
LINKED = ("reference", ".cache", "docs", "README.md", "pantry", "pyproject.toml", "tools", "bench")
SECONDS = 240  # a broken loop that never ends is noticed too
MOST_TESTS = 400  # of a line that everything walks through; the quickest first
LEFT_OUT = {"sentences.py", "__init__.py"}  # sentences, and nothing
FLIPPED = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
EXCHANGED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


@dataclass(frozen=True)
class Place:
    """One way to break one place: the file, the line, which node of the tree, and what is done to
    it.
    """

    path: str
    line: int
    node: int
    kind: str
    before: str

    @property
    def package(self) -> str:
        """The package it belongs to."""
        parts = Path(self.path).parts
        return ".".join(parts[:2]) if len(parts) > 2 else "dietetics"


def ways(node: ast.AST) -> Iterator[str]:
    """How a node can be broken."""
    if isinstance(node, ast.Compare) and type(node.ops[0]) in FLIPPED:
        yield "compare"
    elif (
        isinstance(node, ast.BinOp)
        and type(node.op) in EXCHANGED
        and not isinstance(node.left, ast.JoinedStr)
    ):
        yield "operator"
    elif isinstance(node, ast.BoolOp):
        yield "and-or"
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield "not"
    elif (
        isinstance(node, ast.Constant)
        and isinstance(node.value, (int, float))
        and not isinstance(node.value, bool)
    ):
        yield "constant"
    elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
        yield "truth"
    elif isinstance(node, ast.If):
        yield "guard-never"
    elif isinstance(node, ast.IfExp):
        yield "other-branch"


def broken(node: ast.AST, kind: str) -> None:
    """Break a node where it stands."""
    if kind == "compare" and isinstance(node, ast.Compare):
        node.ops[0] = FLIPPED[type(node.ops[0])]()
    elif kind == "operator" and isinstance(node, ast.BinOp):
        node.op = EXCHANGED[type(node.op)]()
    elif kind == "and-or" and isinstance(node, ast.BoolOp):
        node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
    elif kind == "not" and isinstance(node, ast.UnaryOp):
        node.op = ast.UAdd()
    elif kind == "constant" and isinstance(node, ast.Constant):
        node.value = (
            node.value + 1 if isinstance(node.value, int) or not node.value else node.value * 1.3
        )
    elif kind == "truth" and isinstance(node, ast.Constant):
        node.value = not node.value
    elif kind == "guard-never" and isinstance(node, ast.If):
        node.test = ast.Constant(False)
    elif kind == "other-branch" and isinstance(node, ast.IfExp):
        node.body, node.orelse = node.orelse, node.body


def places_of(path: Path) -> list[Place]:
    """Every place of a module that can be broken; annotations and the decorators' arguments left
    alone.
    """
    tree = ast.parse(path.read_text(encoding="utf-8"))
    skipped: set[int] = set()
    for node in ast.walk(tree):
        notes = [
            getattr(node, "annotation", None),
            getattr(node, "returns", None),
            *getattr(node, "decorator_list", []),
        ]
        skipped |= {id(inner) for note in notes if note is not None for inner in ast.walk(note)}
    relative = str(path.relative_to(ROOT))
    return [
        Place(relative, node.lineno, number, kind, ast.unparse(node).splitlines()[0][:90])
        for number, node in enumerate(ast.walk(tree))
        if id(node) not in skipped and hasattr(node, "lineno")
        for kind in ways(node)
    ]


def source_with(place: Place) -> str:
    """The module's source with the place broken."""
    tree = copy.deepcopy(ast.parse((ROOT / place.path).read_text(encoding="utf-8")))
    broken(list(ast.walk(tree))[place.node], place.kind)
    return ast.unparse(ast.fix_missing_locations(tree))


def lines_of_tests() -> dict[str, dict[str, list[str]]]:
    """file -> line -> tests that walk through it; made once for a version of the code."""
    files = sorted(p for folder in COPIED for p in (ROOT / folder).rglob("*.py"))
    digest = hashlib.sha256(b"".join(p.read_bytes() for p in files)).hexdigest()[:16]
    kept = Path(tempfile.gettempdir()) / f"pantry-walked-{digest}.json"
    if kept.exists():
        return dict(json.loads(kept.read_text(encoding="utf-8")))
    print("mapping which test walks through which line ...", file=sys.stderr, flush=True)
    with tempfile.TemporaryDirectory() as folder:
        config = Path(folder) / "coveragerc"
        data = Path(folder) / "data"
        config.write_text(
            f"[run]\nsource = dietetics\ndynamic_context = test_function\ndata_file = {data}\n",
            encoding="utf-8",
        )
        for tests in TESTS:
            command = [
                sys.executable,
                "-m",
                "coverage",
                "run",
                f"--rcfile={config}",
                "-a",
                "-m",
                "unittest",
                "discover",
                "-s",
                tests,
                "-t",
                ".",
            ]
            subprocess.run(command, cwd=ROOT, check=True, capture_output=True)
        coverage = __import__("coverage")
        measured = coverage.CoverageData(basename=str(data))
        measured.read()
        found: dict[str, dict[str, list[str]]] = {}
        for name in measured.measured_files():
            by_line = measured.contexts_by_lineno(name)
            relative = str(Path(name).relative_to(ROOT))
            found[relative] = {
                str(n): sorted(filter(None, contexts)) for n, contexts in by_line.items()
            }
    kept.write_text(json.dumps(found), encoding="utf-8")
    return found


def tests_for(place: Place, walked: dict[str, dict[str, list[str]]]) -> list[str]:
    """The tests that walk through a place's line; for a line read on import, those that walk
    through its module.
    """
    lines = walked.get(place.path, {})
    here = lines.get(str(place.line), [])
    if not here:
        here = sorted({test for tests in lines.values() for test in tests})
    count: dict[str, int] = {}
    for tests in lines.values():
        for test in tests:
            count[test] = count.get(test, 0) + 1
    # tests that dwell in this module before those that pass through it
    return sorted(here, key=lambda test: -count.get(test, 0))[:MOST_TESTS]


class Worker:
    """A copy of the code in which one place at a time is broken."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        for name in COPIED:
            shutil.copytree(
                ROOT / name, folder / name, ignore=shutil.ignore_patterns("__pycache__")
            )
        for name in LINKED:
            if (ROOT / name).exists():
                os.symlink(ROOT / name, folder / name)

    def notices(self, place: Place, tests: list[str]) -> bool:
        """True when some test fails with the place broken."""
        target = self.folder / place.path
        whole = target.read_text(encoding="utf-8")
        target.write_text(source_with(place), encoding="utf-8")
        try:
            command = [sys.executable, "-B", "-m", "unittest", "-f", "-q", *tests]
            done = subprocess.run(
                command, cwd=self.folder, capture_output=True, timeout=SECONDS, check=False
            )
            return done.returncode != 0
        except subprocess.TimeoutExpired:
            return True
        finally:
            target.write_text(whole, encoding="utf-8")


def chosen(each: int, seed: int, only: str, walked: dict[str, dict[str, list[str]]]) -> list[Place]:
    """So many places of every package by chance, of lines that some test walks through or that are
    read on import.
    """
    by_package: dict[str, list[Place]] = {}
    for path in sorted(CORE.rglob("*.py")):
        if "tests" not in path.parts and path.name not in LEFT_OUT:
            for place in places_of(path):
                by_package.setdefault(place.package, []).append(place)
    found = []
    for package, places in sorted(by_package.items()):
        if only and not package.startswith(only):
            continue
        rng = random.Random(f"{seed}-{package}")
        found += rng.sample(places, min(each, len(places)))
    return found


def main() -> None:
    """Break, run, report. Exit 1 when fewer than nine in ten were noticed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", type=int, default=20, help="places a package")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--only", default="", help="one package, such as dietetics.week")
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 2)
    given = parser.parse_args()
    walked = lines_of_tests()
    places = chosen(given.each, given.seed, given.only, walked)
    escaped: list[Place] = []
    with tempfile.TemporaryDirectory() as folder:
        workers = [Worker(Path(folder) / str(n)) for n in range(given.workers)]
        shares = [places[n :: given.workers] for n in range(given.workers)]

        def run(worker: Worker, share: list[Place]) -> None:
            for place in share:
                tests = tests_for(place, walked)
                caught = bool(tests) and worker.notices(place, tests)
                print(
                    f"{'caught ' if caught else 'ESCAPED'} {place.path}:{place.line} "
                    f"{place.kind}: {place.before}",
                    flush=True,
                )
                if not caught:
                    escaped.append(place)

        with ThreadPoolExecutor(given.workers) as pool:
            list(pool.map(run, workers, shares))
    share = 1 - len(escaped) / len(places)
    print(
        f"\n{len(places)} places broken, {len(places) - len(escaped)} noticed ({share:.0%}). "
        "Escaped:"
    )
    for place in sorted(escaped, key=lambda one: (one.path, one.line)):
        print(f"  {place.path}:{place.line} {place.kind}: {place.before}")
    sys.exit(0 if share >= 0.9 else 1)


if __name__ == "__main__":
    main()
