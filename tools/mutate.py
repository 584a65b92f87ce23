"""Break the core one place at a time and see whether its tests notice.

    ./pantry mutate [--each 20] [--seed 1] [--only dietetics.week]

Every package of `dietetics/` gives so many places by chance: a comparison, an operator, a constant,
a guard. A place is broken, and the tests that walk through its line are run until one fails. What
none notices is printed.

Most places stand inside a function. Those are broken in a copy of this process (a fork), in which
the tests are loaded already: the function gets the broken code and nothing else is made anew, which
takes milliseconds. What stands outside of functions is broken in a copy of the code, and the tests
run there in a process of their own. The first run maps which test walks through which
line, and how long it takes; only test files that were changed since are mapped again.

Tests of the core are asked first, then those of the web; what only these notice is counted apart.
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
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import types
import unittest
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
CORE = ROOT / "dietetics"
TESTS = ("dietetics/tests", "headless/tests")
WEB = "roundpantry"
NOT_ASKED = {"test_hostile_input.py"}  # rubbish in fields, which asks only for an answer
CORE_TESTS, WEB_TESTS, NOBODY = "core", "web", "ESCAPED"
COPIED = ("dietetics", "headless", "roundpantry")
LINKED = (
    "reference",
    ".cache",
    "docs",
    "README.md",
    "pantry",
    "pyproject.toml",
    "tools",
    "bench",
    "manage.py",
    "requirements.lock",
)
SECONDS = 240  # a broken loop that never ends is noticed too
MOST_TESTS = 400  # of a line that everything walks through; the quickest first
MOST_SECONDS = 40.0  # of tests for one place, as long as they took when they were mapped
LEFT_OUT = {"sentences.py", "__init__.py"}  # sentences, and nothing
KEPT = Path(tempfile.gettempdir()) / "pantry-walked"
FLIPPED = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
AT_ONCE = ("<listcomp>", "<setcomp>", "<dictcomp>", "<genexpr>")  # run where they stand, once
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

    def at(self, place: Place) -> bool:
        """True where some test walks through a place's line."""
        return place.line in self.lines.get(place.path, {})

    def tests_for(self, place: Place) -> list[str]:
        """The tests that walk through a place's line; for a line read on import, those that walk
        through its module. Tests that dwell in this module come before those that pass through it,
        and the quick before the slow.
        """
        inside = lines_in_functions(ROOT / place.path)
        lines = {n: t for n, t in self.lines.get(place.path, {}).items() if n in inside}
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


class Watched(unittest.TestResult):
    """Notes which lines each test walks through, and its seconds."""

    def __init__(self, watch: Any) -> None:
        super().__init__()
        self.watch, self.seconds, self.began = watch, dict[str, float](), 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """Lines belong to this test from here on."""
        super().startTest(test)
        self.began = time.perf_counter()
        self.watch.switch_context(test.id())

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """Up to here."""
        super().stopTest(test)
        self.seconds[test.id()] = time.perf_counter() - self.began
        self.watch.switch_context("")


def map_file(file: Path, out: Path) -> None:
    """Run a file of tests and write what each of them walks through. Raises for one that fails."""
    import coverage

    watch = coverage.Coverage(source=[str(CORE)], data_file=None, config_file=False)
    result = Watched(watch)
    watch.start()
    unittest.defaultTestLoader.loadTestsFromName(module_of(file)).run(result)
    watch.stop()
    if not result.wasSuccessful():
        raise RuntimeError(str([words for _, words in (*result.failures, *result.errors)]))
    data, rows = watch.get_data(), {}
    for test, seconds in result.seconds.items():
        data.set_query_contexts([f"^{re.escape(test)}$"])
        walked = {str(Path(f).relative_to(ROOT)): data.lines(f) for f in data.measured_files()}
        rows[test] = (seconds, {f: lines for f, lines in walked.items() if lines})
    out.with_suffix(".new").write_text(json.dumps(rows), encoding="utf-8")
    os.replace(out.with_suffix(".new"), out)


def module_of(file: Path) -> str:
    """A file's name as a module."""
    return str(file.relative_to(ROOT)).removesuffix(".py").replace("/", ".")


def test_files() -> list[Path]:
    """Every file of tests that may notice something: those of the core first, then the web's."""
    core = (file for name in TESTS for file in (ROOT / name).glob("test_*.py"))
    web = (ROOT / WEB).glob("*/tests/test_*.py")
    return [*sorted(core), *sorted(file for file in web if file.name not in NOT_ASKED)]


def walked_by(workers: int) -> Walked:
    """Map every test file; what did not change since the last time is taken from there."""
    sources = sorted(p for p in CORE.rglob("*.py") if "tests" not in p.parts)
    core = hashlib.sha256(b"".join(p.read_bytes() for p in sources)).digest()
    KEPT.mkdir(exist_ok=True)
    kept = {}
    for file in test_files():
        digest = hashlib.sha256(core + file.read_bytes()).hexdigest()[:16]
        kept[file] = KEPT / f"{file.stem}-{digest}.json"
    missing = [file for file, out in kept.items() if not out.exists()]

    def mapped(number: int) -> None:
        with own_database():
            for file in missing[number::workers]:
                print(f"mapping {file.relative_to(ROOT)}", flush=True)
                if not in_a_fork(lambda file=file: map_file(file, kept[file])):
                    print(f"{file} fails as it is", flush=True)
                    os._exit(1)

    at_once(workers if missing else 0, mapped)
    found = Walked()
    for out in kept.values():
        found.add(json.loads(out.read_text(encoding="utf-8")))
    return found


def in_a_fork(work: Callable[[], object], quiet: bool = False) -> bool:
    """Do something in a fork of this process; False where it fails, or takes too long."""
    child = os.fork()
    if child == 0:
        try:
            if quiet:
                nothing = os.open(os.devnull, os.O_RDWR)
                for stream in (0, 1, 2):
                    os.dup2(nothing, stream)
                signal.alarm(SECONDS)
            work()
        except BaseException as error:  # noqa: BLE001
            print(error, flush=True)
            os._exit(1)
        os._exit(0)
    return os.waitpid(child, 0)[1] == 0


def at_once(workers: int, work: Callable[[int], object]) -> None:
    """Do something in several forks at once, each with its number. Exits where one breaks off."""
    children = []
    for number in range(workers):
        child = os.fork()
        if child == 0:
            try:
                work(number)
            except BaseException as error:  # noqa: BLE001
                print(repr(error), flush=True)
                os._exit(1)
            os._exit(0)
        children.append(child)
    if any(os.waitpid(child, 0)[1] for child in children):
        raise SystemExit("a worker broke off; nothing is known of its share")


@contextlib.contextmanager
def own_database() -> Iterator[None]:
    """A copy of the tests' database for the forks of this process."""
    from django.db import connection

    with tempfile.TemporaryDirectory() as folder:
        connection.close()
        copied = shutil.copy(connection.settings_dict["NAME"], folder)
        connection.settings_dict["NAME"] = str(copied)
        yield


def load_everything() -> None:
    """Import every test and make the tests' database, so that a fork has them."""
    os.environ["DJANGO_SETTINGS_MODULE"] = "roundpantry.config.settings.test"
    import django
    from django.db import connection
    from django.test.utils import setup_test_environment

    django.setup()
    setup_test_environment()
    connection.creation.create_test_db(verbosity=0, serialize=False)
    connection.close()
    for file in test_files():
        importlib.import_module(module_of(file))


@cache
def lines_in_functions(path: Path) -> frozenset[int]:
    """The lines of a module that are not read on import: those of the bodies of its functions."""
    return frozenset(
        line
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, (ast.FunctionDef, ast.Lambda))
        for part in (node.body if isinstance(node.body, list) else [node.body])
        for line in range(part.lineno, (part.end_lineno or part.lineno) + 1)
    )


def outermost(code: types.CodeType, line: int) -> types.CodeType | None:
    """The code of the function around a line that is in no other function; None where the line is
    in none.
    """
    for inner in code.co_consts:
        if isinstance(inner, types.CodeType) and inner.co_name not in AT_ONCE:
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


def noticed(
    place: Place,
    tests: list[str],
    in_fork: bool,
    by_copy: Callable[[Place, list[str]], bool],
) -> bool:
    """True when some of the tests fail with the place broken: in a fork, or on a copy."""
    if not tests:
        return False
    return noticed_in_a_fork(place, tests) if in_fork else by_copy(place, tests)


def is_in_a_function(place: Place) -> bool:
    """True where a fork can break a place."""
    return outermost(compile(broken_tree(place), place.path, "exec"), place.line) is not None


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

    def unnoticed() -> None:
        if exchanged(place) and fails_here(tests):
            os._exit(1)

    return not in_a_fork(unnoticed, quiet=True)


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
        """True when some test of the core fails with the place broken."""
        return self._notices(place, [sys.executable, "-B", "-m", "unittest", "-f", "-q", *tests])

    def notices_on_the_web(self, place: Place, tests: list[str]) -> bool:
        """True when some test of the web fails with the place broken."""
        command = [sys.executable, "-B", "manage.py", "test", "--failfast", "-v", "0", *tests]
        return self._notices(place, command)

    def _notices(self, place: Place, command: list[str]) -> bool:
        target = self.folder / place.path
        whole = target.read_text(encoding="utf-8")
        target.write_text(ast.unparse(broken_tree(place)), encoding="utf-8")
        try:
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


def share_of(places: list[Place], walked: Walked, folder: Path) -> dict[str, list[Place]]:
    """Break places one after the other; which were noticed by what."""
    copied = CopyOfTheCode(folder)
    found: dict[str, list[Place]] = {CORE_TESTS: [], WEB_TESTS: [], NOBODY: []}
    for place in places:
        began = time.monotonic()
        tests = walked.tests_for(place)
        core = [test for test in tests if not test.startswith(WEB)]
        web = [test for test in tests if test.startswith(WEB)]
        in_fork = is_in_a_function(place) and walked.at(place)
        if noticed(place, core, in_fork, copied.notices):
            by = CORE_TESTS
        elif noticed(place, web, in_fork, copied.notices_on_the_web):
            by = WEB_TESTS
        else:
            by = NOBODY
        found[by].append(place)
        print(
            f"{by:8} {place.path}:{place.line} {place.kind}: {place.before} "
            f"[{len(core)} + {len(web)} tests, {time.monotonic() - began:.0f} s]",
            flush=True,
        )
    return found


def spread(places: list[Place], walked: Walked, workers: int) -> dict[str, list[Place]]:
    """Break places in several processes at once; which were noticed by what."""
    with tempfile.TemporaryDirectory() as folder:

        def work(number: int) -> None:
            with own_database():
                found = share_of(places[number::workers], walked, Path(folder) / f"copy-{number}")
            rows = {by: [places.index(one) for one in some] for by, some in found.items()}
            (Path(folder) / f"found-{number}.json").write_text(json.dumps(rows))

        at_once(workers, work)
        parts = [json.loads(file.read_text()) for file in Path(folder).glob("found-*.json")]
    return {by: [places[n] for part in parts for n in part[by]] for by in parts[0]}


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
    load_everything()
    walked = walked_by(given.workers)
    places = chosen(given.each, given.seed, given.only)
    found = spread(places, walked, given.workers)
    escaped = found[NOBODY]
    share = 1 - len(escaped) / len(places)
    print(
        f"\n{len(places)} places broken, {len(places) - len(escaped)} noticed ({share:.0%}), "
        f"{len(found[WEB_TESTS])} of them by tests of the web alone. Escaped:"
    )
    for place in sorted(escaped, key=lambda one: (one.path, one.line)):
        print(f"  {place.path}:{place.line} {place.kind}: {place.before}")
    sys.exit(0 if share >= 0.9 else 1)


if __name__ == "__main__":
    main()
