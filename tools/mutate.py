"""Break the core one place at a time and see whether its tests notice.

    ./pantry mutate [--each 20] [--seed 1] [--only dietetics.week]

Every package of `dietetics/` gives so many places by chance: a comparison, an operator, a constant,
a guard. A place is broken, and the tests that walk through its line are run until one fails. What
none notices is printed.

Most places stand inside a function. Those are broken in a copy of this process (a fork), in which
the tests are loaded already: the function gets the broken code and nothing else is made anew, which
takes milliseconds. What survives that, and what stands outside of functions, is tried once more in
a process of its own on a broken copy of the code, for some tests look at files or start processes,
and some values were worked out before the fork. The first run maps which test walks through which
line, and how long it takes; only test files that were changed since are mapped again.
"""

from __future__ import annotations

import argparse
import ast
import contextlib
import copy
import gc
import hashlib
import importlib
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import types
import unittest
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CORE = ROOT / "dietetics"
TESTS = ("dietetics/tests", "headless/tests")
COPIED = ("dietetics", "headless")
LINKED = ("reference", ".cache", "docs", "README.md", "pantry", "pyproject.toml", "tools", "bench")
SECONDS = 120  # a broken loop that never ends is noticed too
MOST_TESTS = 400  # of a line that everything walks through; the quickest first
MOST_SECONDS = 60.0  # of tests for one place, as long as they took when they were mapped
LEFT_OUT = {"sentences.py", "__init__.py"}  # sentences, and nothing
KEPT = Path(tempfile.gettempdir()) / "pantry-walked"
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

    @property
    def module(self) -> str:
        """The module it stands in."""
        return self.path.removesuffix(".py").replace("/", ".")


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


def broken_tree(place: Place) -> ast.Module:
    """The module's tree with the place broken, its lines where they were."""
    tree = copy.deepcopy(ast.parse((ROOT / place.path).read_text(encoding="utf-8")))
    broken(list(ast.walk(tree))[place.node], place.kind)
    return ast.fix_missing_locations(tree)


@dataclass
class Walked:
    """Which test walks through which line of which file, and the seconds each test takes."""

    lines: dict[str, dict[int, set[str]]] = field(default_factory=dict)
    seconds: dict[str, float] = field(default_factory=dict)

    def add(self, rows: dict[str, tuple[float, dict[str, list[int]]]]) -> None:
        """Take in what the tests of one file walk through."""
        for test, (seconds, files) in rows.items():
            self.seconds[test] = seconds
            for file, lines in files.items():
                for line in lines:
                    self.lines.setdefault(file, {}).setdefault(line, set()).add(test)

    def tests_for(self, place: Place) -> list[str]:
        """The tests that walk through a place's line; for a line read on import, those that walk
        through its module. Tests that dwell in this module come before those that pass through it,
        and the quick before the slow.
        """
        lines = self.lines.get(place.path, {})
        here = lines.get(place.line) or {test for tests in lines.values() for test in tests}
        count: dict[str, int] = {}
        for tests in lines.values():
            for test in tests:
                count[test] = count.get(test, 0) + 1
        ordered = sorted(here, key=lambda t: (-count.get(t, 0) / (0.05 + self.seconds[t]), t))
        taken, sum_s = [], 0.0
        for test in ordered[:MOST_TESTS]:
            sum_s += self.seconds[test]
            if taken and sum_s > MOST_SECONDS:
                break
            taken.append(test)
        return taken


MAPPER = """
import json, sys, time, unittest
import coverage
out, module = sys.argv[1:]
watch = coverage.Coverage(source=["dietetics"], data_file=None, config_file=False)
class Result(unittest.TestResult):
    def startTest(self, test):
        super().startTest(test)
        self.began = time.perf_counter()
        watch.switch_context(test.id())
    def stopTest(self, test):
        super().stopTest(test)
        seconds[test.id()] = time.perf_counter() - self.began
        watch.switch_context("")
seconds, rows = {}, {}
watch.start()
result = Result()
unittest.defaultTestLoader.loadTestsFromName(module).run(result)
watch.stop()
data = watch.get_data()
for test, took in seconds.items():
    data.set_query_contexts(["^" + __import__("re").escape(test) + "$"])
    files = {f: data.lines(f) for f in data.measured_files()}
    rows[test] = (took, {f: lines for f, lines in files.items() if lines})
json.dump(rows, open(out, "w"))
sys.exit(0 if result.wasSuccessful() else 1)
"""


def walked_by(workers: int) -> Walked:
    """Map every test file; what did not change since the last time is taken from there."""
    sources = sorted(p for p in CORE.rglob("*.py") if "tests" not in p.parts)
    support = sorted(
        p for name in TESTS for p in (ROOT / name).glob("*.py") if p.name[:5] != "test_"
    )
    core = hashlib.sha256(b"".join(p.read_bytes() for p in (*sources, *support)))
    files = sorted(p for name in TESTS for p in (ROOT / name).glob("test_*.py"))
    KEPT.mkdir(exist_ok=True)

    def mapped(file: Path) -> dict[str, tuple[float, dict[str, list[int]]]]:
        digest = hashlib.sha256(core.digest() + file.read_bytes()).hexdigest()[:16]
        kept = KEPT / f"{file.stem}-{digest}.json"
        if not kept.exists():
            print(f"mapping {file.name}", file=sys.stderr, flush=True)
            module = str(file.relative_to(ROOT)).removesuffix(".py").replace("/", ".")
            done = subprocess.run(
                [sys.executable, "-c", MAPPER, str(kept) + ".new", module],
                cwd=ROOT,
                capture_output=True,
                text=True,
                check=False,
            )
            if done.returncode:
                raise SystemExit(f"{module} fails as it is:\n{done.stderr[-2000:]}")
            os.replace(str(kept) + ".new", kept)
        return dict(json.loads(kept.read_text(encoding="utf-8")))

    found = Walked()
    with ThreadPoolExecutor(workers) as pool:
        for rows in pool.map(mapped, files):
            found.add(
                {
                    test: (s, {str(Path(f).relative_to(ROOT)): lines for f, lines in by.items()})
                    for test, (s, by) in rows.items()
                }
            )
    return found


def outermost(code: types.CodeType, line: int) -> types.CodeType | None:
    """The code of the function around a line that is in no other function; None where the line is
    in none.
    """
    for inner in code.co_consts:
        if isinstance(inner, types.CodeType) and not inner.co_name.startswith("<"):
            of_a_class = "__qualname__" in inner.co_names and not inner.co_flags & 0x2
            if of_a_class:
                found = outermost(inner, line)
                if found is not None:
                    return found
            elif line in {n for _, _, n in inner.co_lines() if n} | _inner_lines(inner):
                return inner
    return None


def _inner_lines(code: types.CodeType) -> set[int]:
    """The lines of everything that is defined in a function."""
    return {
        line
        for inner in code.co_consts
        if isinstance(inner, types.CodeType)
        for line in {n for _, _, n in inner.co_lines() if n} | _inner_lines(inner)
    }


def exchanged(place: Place) -> bool:
    """Give the function around a place its broken code, wherever it is held; False where there is
    no such function.
    """
    made = outermost(compile(broken_tree(place), str(ROOT / place.path), "exec"), place.line)
    if made is None:
        return False
    file = importlib.import_module(place.module).__file__
    live = [
        one
        for one in gc.get_objects()
        if isinstance(one, types.FunctionType)
        and one.__code__.co_filename == file
        and one.__code__.co_qualname == made.co_qualname
        and one.__code__.co_firstlineno == made.co_firstlineno
        and len(one.__code__.co_freevars) == len(made.co_freevars)
    ]
    for one in live:
        one.__code__ = made
    return bool(live)


def fails_here(tests: list[str]) -> bool:
    """Run tests in this process until one fails."""
    suite = unittest.defaultTestLoader.loadTestsFromNames(tests)
    result = unittest.TestResult()
    result.failfast = True
    suite.run(result)
    return not result.wasSuccessful()


def noticed_in_a_fork(place: Place, tests: list[str]) -> bool:
    """True when some test fails in a fork of this process with the place broken; False also where
    it cannot be broken there.
    """
    child = os.fork()
    if child == 0:
        code = 1
        try:
            nothing = os.open(os.devnull, os.O_RDWR)
            for stream in (0, 1, 2):
                os.dup2(nothing, stream)
            signal.alarm(SECONDS)
            code = 0 if exchanged(place) and fails_here(tests) else 1
        except BaseException:  # noqa: BLE001
            code = 0  # whatever escapes a test was noticed
        finally:
            os._exit(code)
    _, status = os.waitpid(child, 0)
    return not (os.WIFEXITED(status) and os.WEXITSTATUS(status) == 1)


class CopyOfTheCode:
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
        target.write_text(ast.unparse(broken_tree(place)), encoding="utf-8")
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


def chosen(each: int, seed: int, only: str) -> list[Place]:
    """So many places of every package by chance."""
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


def load_everything() -> None:
    """Import every test, so that a fork has them."""
    for name in TESTS:
        for file in sorted((ROOT / name).glob("test_*.py")):
            importlib.import_module(f"{name.replace('/', '.')}.{file.stem}")


def share_of(places: list[Place], walked: Walked, folder: Path) -> list[Place]:
    """Break places one after the other; those that nothing noticed."""
    copied = CopyOfTheCode(folder)
    escaped = []
    for place in places:
        began = time.monotonic()
        tests = walked.tests_for(place)
        caught = bool(tests) and (noticed_in_a_fork(place, tests) or copied.notices(place, tests))
        print(
            f"{'caught ' if caught else 'ESCAPED'} {place.path}:{place.line} {place.kind}: "
            f"{place.before} [{len(tests)} tests, {time.monotonic() - began:.0f} s]",
            flush=True,
        )
        if not caught:
            escaped.append(place)
    return escaped


def spread(places: list[Place], walked: Walked, workers: int) -> list[Place]:
    """Break places in several processes at once; those that nothing noticed."""
    with tempfile.TemporaryDirectory() as folder:
        children = []
        for n in range(workers):
            child = os.fork()
            if child == 0:
                escaped = share_of(places[n::workers], walked, Path(folder) / f"copy-{n}")
                rows = [places.index(place) for place in escaped]
                (Path(folder) / f"escaped-{n}.json").write_text(json.dumps(rows))
                os._exit(0)
            children.append(child)
        for child in children:
            os.waitpid(child, 0)
        found = []
        for n in range(workers):
            file = Path(folder) / f"escaped-{n}.json"
            if not file.exists():
                raise SystemExit("a worker broke off; nothing is known of its share")
            found += [places[row] for row in json.loads(file.read_text())]
    return found


def main() -> None:
    """Break, run, report. Exit 1 when fewer than nine in ten were noticed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--each", type=int, default=20, help="places a package")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--only", default="", help="one package, such as dietetics.week")
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 2)
    given = parser.parse_args()
    sys.path.insert(0, str(ROOT))
    os.environ["PANTRY_SEED"] = str(given.seed)
    walked = walked_by(given.workers)
    places = chosen(given.each, given.seed, given.only)
    with contextlib.redirect_stderr(sys.stdout):
        load_everything()
        escaped = spread(places, walked, given.workers)
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
