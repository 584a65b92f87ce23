"""The test runner: Django's, and it can say what each test cost.

With PANTRY_TEST_TIMES naming a folder, every process writes there a line a test: its processor
seconds (threads and ended child processes counted, a browser not), its seconds by the clock, and
its name. What a class prepares once, its database among it, stands in a line of its own.
"""

from __future__ import annotations

import os
import resource
import sys
import time
import unittest
from pathlib import Path
from typing import Any

from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner


def processor_s() -> float:
    """Processor seconds of this process and of its ended children."""
    used = (resource.getrusage(resource.RUSAGE_SELF), resource.getrusage(resource.RUSAGE_CHILDREN))
    return sum(one.ru_utime + one.ru_stime for one in used)


class Timed:
    """A test result that notes what each test cost."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        folder = os.environ.get("PANTRY_TEST_TIMES")
        self.file = Path(folder) / f"{os.getpid()}.txt" if folder else None
        self.since, self.clock = processor_s(), time.monotonic()

    def _note(self, name: str) -> None:
        now, clock = processor_s(), time.monotonic()
        if self.file is not None:
            with self.file.open("a", encoding="utf-8") as written:
                written.write(f"{now - self.since:.3f} {clock - self.clock:.3f} {name}\n")
        self.since, self.clock = now, clock

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """What was used since the last test prepared this one's class."""
        self._note(f"{type(test).__module__}.{type(test).__qualname__} (prepared)")
        super().startTest(test)  # type: ignore[misc]

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        """What was used since it began is its own."""
        super().stopTest(test)  # type: ignore[misc]
        self._note(test.id())


class TimedResult(Timed, unittest.TextTestResult):
    """Of tests in one process."""


class TimedRemoteResult(Timed, RemoteTestResult):
    """Of tests in one of several processes."""


class TimedRemoteRunner(RemoteTestRunner):
    """Runs a class in one of several processes."""

    resultclass = TimedRemoteResult


class TimedSuite(ParallelTestSuite):
    """Spreads classes over processes."""

    runner_class = TimedRemoteRunner


class TimedRunner(DiscoverRunner):
    """Django's runner, with times."""

    parallel_test_suite = TimedSuite

    def get_resultclass(self) -> type[unittest.TextTestResult] | None:
        """Django's choice where it has one. With several processes this result only hears of what
        theirs have timed.
        """
        return super().get_resultclass() or (TimedResult if self.parallel <= 1 else None)


def main(folder: Path) -> None:
    """Print what each part cost and the ten slowest tests."""
    rows = [
        (float(used), name)
        for file in folder.glob("*.txt")
        for used, _, name in (
            line.split(" ", 2) for line in file.read_text(encoding="utf-8").splitlines()
        )
    ]
    parts: dict[str, float] = {}
    for seconds, name in rows:
        words = name.split(".")
        part = ".".join(words[:2]) if words[0] == "roundpantry" else words[0]
        parts[part] = parts.get(part, 0.0) + seconds
    print("== processor seconds (a browser's own are not among them)")
    for part, seconds in sorted(parts.items(), key=lambda row: -row[1]):
        print(f"{seconds:7.1f} {part}")
    print(f"{sum(parts.values()):7.1f} in all; the ten slowest:")
    for seconds, name in sorted(rows, reverse=True)[:10]:
        print(f"{seconds:7.1f} {name}")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
