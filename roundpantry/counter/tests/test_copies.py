"""What is told of the copies, which are dropped, and what a bad database says at the start."""

from __future__ import annotations

import os
import shutil
import sqlite3
import tempfile
from collections import namedtuple
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

from django.core.management import CommandError, call_command
from django.test import SimpleTestCase
from django.utils import timezone

from roundpantry.counter import clock
from roundpantry.counter.backups import condition, places, taking

Usage = namedtuple("Usage", "total used free")
NOON = datetime(2026, 12, 1, 12, 0)


class OwnHome(SimpleTestCase):
    """A home with a small database of its own."""

    def setUp(self) -> None:
        self.home = Path(tempfile.mkdtemp(prefix="pantry #?% "))
        self.addCleanup(shutil.rmtree, self.home)
        self.file = self.home / "own.sqlite3"
        with closing(sqlite3.connect(self.file)) as there:
            there.execute("CREATE TABLE a (b INTEGER)")
        databases = {"default": {"ENGINE": "django.db.backends.sqlite3", "NAME": self.file}}
        for module in (places, condition):
            settings = mock.patch.object(module, "settings", mock.Mock())
            found = settings.start()
            found.HOME, found.DATABASES = self.home, databases
            self.addCleanup(settings.stop)


class Told(OwnHome):
    """Today says when there was no copy for two days, and when the disk is nearly full."""

    def test_a_new_practice_is_left_in_peace_for_two_days(self) -> None:
        for hours, is_well in ((0, True), (47, True), (49, False)):
            with clock.set_to(clock.at(NOON.date(), 12) + timedelta(hours=hours)):
                self.assertEqual(condition.condition().is_well, is_well, hours)

    def test_two_days_without_a_copy_and_why(self) -> None:
        with clock.set_to(clock.at(NOON.date(), 12)) as _:
            condition.note_success(self.file)
            last = clock.now()
            condition.note_failure(self.file, "no room")
        for hours, since in ((48, None), (49, last)):
            with clock.set_to(last + timedelta(hours=hours)):
                found = condition.condition()
                self.assertEqual((found.since, found.problem), (since, "no room"))
        condition.note_success(self.file)
        self.assertEqual(condition.condition().problem, "")

    def test_a_disk_that_is_nearly_full(self) -> None:
        for free, told in ((199_999_999, 199_999_999), (200_000_001, None)):
            with mock.patch.object(shutil, "disk_usage", return_value=Usage(1, 1, free)):
                self.assertEqual(condition.condition().free_bytes, told)

    def test_a_large_database_needs_room_for_four(self) -> None:
        with self.file.open("r+b") as there:
            there.truncate(60_000_000)
        for free, is_well in ((239_000_000, False), (241_000_000, True)):
            with mock.patch.object(shutil, "disk_usage", return_value=Usage(1, 1, free)):
                self.assertEqual(condition.condition().is_well, is_well)

    def test_what_was_noted_and_cannot_be_read_is_no_trouble(self) -> None:
        condition.note_success(self.file)
        next((self.home / "backups").glob(".own.state.json")).write_text("[half")
        self.assertTrue(condition.condition().is_well)


class Dropped(OwnHome):
    """Every kind of copy the program makes is dropped by the same rule, those by hand by nobody."""

    def test_each_kind_apart(self) -> None:
        folder = places.made_backup_folder()
        kinds = ("daily.sqlite3", "before-restoring.copy.zip", "before-migrating.copy.zip")
        kinds += ("damaged", "by-hand.copy.zip")
        for n in range(20):
            stamp = f"{NOON.replace(month=11, day=1) + timedelta(days=n):%Y-%m-%d-%H%M%S}"
            for kind in kinds:
                place = folder / f"own-{stamp}-{kind}"
                if kind == "damaged":
                    place.mkdir()
                    (place / "own.sqlite3").touch()
                else:
                    place.touch()
            (folder / f"other-{stamp}-daily.sqlite3").touch()
        taking.drop_old("own")
        for kind in kinds:
            left = sorted(file.name for file in folder.glob(f"own-*{kind}"))
            # the last fourteen and the first of the month
            self.assertEqual(len(left), 20 if kind.startswith("by-hand") else 15, kind)
            self.assertIn("2026-11-01", left[0])
        self.assertEqual(len(list(folder.glob("other-*"))), 20)


class WhenTaken(OwnHome):
    """A copy is as old as its name says, whatever the file system says after a move."""

    def test_by_its_name_and_not_by_the_file(self) -> None:
        folder = places.made_backup_folder()
        older, newer = (folder / f"own-2026-03-{day}-120000-daily.copy.zip" for day in ("04", "05"))
        for file, moment in ((newer, 1_000_000_000), (older, 2_000_000_000)):
            file.touch()
            os.utime(file, (moment, moment))
        self.assertEqual([copy.file for copy in taking.kept_copies()], [newer, older])
        self.assertEqual(condition.newest_copy(), newer)
        self.assertEqual(
            timezone.localtime(places.taken_at(older)).isoformat()[:16], "2026-03-04T12:00"
        )

    def test_a_name_that_says_no_moment_leaves_the_file_to_say_it(self) -> None:
        file = places.made_backup_folder() / "own-2026-13-40-990000-daily.copy.zip"
        file.touch()
        os.utime(file, (1_000_000_000, 1_000_000_000))
        self.assertEqual(places.taken_at(file), datetime.fromtimestamp(1_000_000_000, UTC))


class AtTheStart(OwnHome):
    """What a start on a bad database says."""

    def started(self) -> str:
        """What is said; "" where the program would start."""
        try:
            call_command("check_database")
        except CommandError as error:
            return str(error)
        return ""

    def test_a_whole_one_and_none_at_all_start(self) -> None:
        self.assertEqual(self.started(), "")
        self.file.unlink()
        self.assertEqual(self.started(), "")

    def test_a_bad_one_says_what_to_do(self) -> None:
        copy = places.made_backup_folder() / "own-2026-12-01-120000-daily.copy.zip"
        copy.touch()
        for content, words in ((b"", "is empty"), (b"x" * 9000, "damaged or not a database")):
            self.file.write_bytes(content)
            said = self.started()
            self.assertIn(words, said)
            self.assertIn(f"./pantry restore '{copy}'", said)
        self.file.unlink()
        self.assertIn("There is no database", self.started())
        with mock.patch.dict("os.environ", {"PANTRY_NEW": "1"}):
            self.assertEqual(self.started(), "")
        places.Path(f"{self.file}-wal").write_bytes(b"x")
        self.assertIn("only its log is left", self.started())
