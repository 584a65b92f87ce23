"""Restores that have to work when everything else does not: a database damaged in eight ways,
copies of earlier versions, and files that must be refused before anything is touched.
"""

from __future__ import annotations

import atexit
import gzip
import hashlib
import json
import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Callable
from contextlib import closing
from functools import cache
from pathlib import Path

from django.test import SimpleTestCase

from hostile import again, sample
from hostile.server import ROOT, Server, home_with_demo, run

OLD_COPIES = ROOT / "roundpantry" / "counter" / "tests" / "copies"
OLD_KEY = "key-of-the-old-home-for-tests-only"
REMARKS = "SELECT text FROM handover_answered WHERE kind = 'remark' ORDER BY text"
OPEN = (
    "SELECT nonce FROM handover_sharelink WHERE withdrawn_at IS NULL AND closed_by_restore_at "
    "IS NULL"
)
SEAL = 71  # bytes of the checksum at the end of a copy


def ask(file: Path, question: str) -> list[object]:
    """The first column of what a database answers."""
    with closing(sqlite3.connect(file)) as there:
        return [row[0] for row in there.execute(question)]


def old_copy(name: str, folder: Path) -> Path:
    """A copy that an earlier version made, in a folder."""
    file = folder / f"{name}.sqlite3"
    file.write_bytes(gzip.decompress((OLD_COPIES / f"{name}.sqlite3.gz").read_bytes()))
    return file


@cache
def _restored_once() -> Path:
    home = Path(tempfile.mkdtemp(prefix="pantry-restored-"))
    atexit.register(shutil.rmtree, home)
    made = run(home, "restore", str(old_copy("version-0.1.0", home)))
    assert made.returncode == 0, made.stderr
    (home / "version-0.1.0.sqlite3").unlink()
    return home


def put_restored(home: Path) -> None:
    """Make a home into which the copy of version 0.1.0 was put back; restored once a run."""
    shutil.copytree(_restored_once(), home)


def files_of(home: Path) -> dict[str, str]:
    """Every file of a home that a person would miss, by its checksum."""
    return {
        str(file.relative_to(home)): hashlib.sha256(file.read_bytes()).hexdigest()
        for file in home.rglob("*")
        if file.is_file() and not file.name.endswith((".in-use", "-shm"))
    }


def middle(file: Path) -> None:
    """Overwrite two pages in the middle."""
    whole = bytearray(file.read_bytes())
    at = len(whole) // 2 // 4096 * 4096
    whole[at : at + 8192] = b"\xff" * 8192
    file.write_bytes(whole)


def only_the_log(file: Path) -> None:
    """Leave nothing but a log."""
    Path(f"{file}-wal").write_bytes(file.read_bytes()[:9000])
    file.unlink()


def another_log(file: Path) -> None:
    """Put rubbish into the log of a database whose first page is gone."""
    file.write_bytes(b"\0" * 4096 + file.read_bytes()[4096:])
    Path(f"{file}-wal").write_bytes(b"\x37\x7f\x06\x82" + b"\x01" * 5000)


def without_a_table(file: Path) -> None:
    """Lose a table."""
    with closing(sqlite3.connect(file)) as there:
        there.execute("DROP TABLE handover_answered")
        there.commit()


WAYS: dict[str, Callable[[Path], object]] = {
    "overwritten": lambda file: file.write_bytes(b"burnt " * 5000),
    "two pages in the middle": middle,
    "cut in half": lambda file: file.write_bytes(file.read_bytes()[: file.stat().st_size // 2]),
    "empty": lambda file: file.write_bytes(b""),
    "missing": lambda file: file.unlink(),
    "only its log is left": only_the_log,
    "no first page, and a foreign log": another_log,
    "a table is gone": without_a_table,
}


class Damaged(SimpleTestCase):
    """A home with links, sessions and a week under way, damaged in eight ways, gets a copy back
    that the version before made on another home.
    """

    def setUp(self) -> None:
        self.place = Path(tempfile.mkdtemp(prefix="pantry damaged #1 50%? "))
        self.addCleanup(shutil.rmtree, self.place)

    def test_damaged_in_eight_ways_and_put_back(self) -> None:
        for name, damage in sample("damages", WAYS.items(), 0.25):
            with self.subTest(name, again=again()):
                home = self.place / name.replace(" ", "-")
                put_restored(home)
                file = home / "demo.sqlite3"
                damage(file)
                damaged = file.read_bytes() if file.exists() else b""
                refused = run(home, "check_database", "--may-be-missing")
                if name not in ("missing", "a table is gone"):
                    self.assertIn("./pantry restore", refused.stderr)
                self.assertNotIn("Traceback", refused.stderr)
                restored = run(home, "restore", str(old_copy("version-0.1.0", self.place)))
                self.assertEqual(restored.returncode, 0, restored.stderr)
                self.assertEqual(len(ask(file, REMARKS)), 3)  # all answered before
                self.assertEqual(ask(file, OPEN), [])
                self.assertEqual(ask(file, "SELECT * FROM django_session"), [])
                self.assertEqual(run(home, "migrate", "--check", "--skip-checks").returncode, 0)
                aside = [
                    one.read_bytes()
                    for one in (home / "backups").glob("*-damaged/*")
                    if one.name == file.name
                ]
                self.assertEqual(aside, [damaged] if damaged or name == "empty" else [])

    def test_a_whole_database_is_kept_as_a_copy_and_its_open_links_stay_open(self) -> None:
        home = self.place / "home"
        put_restored(home)
        file = home / "demo.sqlite3"
        copy = old_copy("version-0.1.0", self.place)
        with closing(sqlite3.connect(file)) as there:
            there.execute("UPDATE handover_sharelink SET closed_by_restore_at = NULL")
            there.execute(
                "UPDATE handover_sharelink SET withdrawn_at = '2026-12-01' "
                "WHERE nonce LIKE 'fixture-nonce-2%'"
            )
            there.commit()
        restored = run(home, "restore", str(copy))
        self.assertIn("1 of the clients' links", restored.stdout)
        self.assertEqual([str(nonce)[:15] for nonce in ask(file, OPEN)], ["fixture-nonce-0"])
        self.assertEqual(len(list((home / "backups").glob("*before-restoring*.copy.zip"))), 1)
        self.assertEqual(list((home / "backups").glob("*damaged*")), [])


class OlderVersions(SimpleTestCase):
    """Copies of earlier versions are brought up to this one."""

    def test_each_is_whole_at_the_end(self) -> None:
        names = [file.name.removesuffix(".sqlite3.gz") for file in OLD_COPIES.glob("*.gz")]
        self.assertGreaterEqual(len(names), 2)
        for name in names:
            with self.subTest(name), tempfile.TemporaryDirectory() as folder:
                home = Path(folder) / "home"
                home.mkdir()
                restored = run(home, "restore", str(old_copy(name, Path(folder))))
                self.assertEqual(restored.returncode, 0, restored.stderr)
                file = home / "demo.sqlite3"
                self.assertEqual(run(home, "migrate", "--check", "--skip-checks").returncode, 0)
                self.assertEqual(ask(file, "SELECT name FROM clients_client"), ["Ana Example"])
                self.assertEqual(ask(file, "PRAGMA integrity_check"), ["ok"])
                self.assertEqual(
                    ask(file, REMARKS),
                    [
                        f"A remark on the link {which}."
                        for which in (
                            "open",
                            "withdrawn after the copy",
                            "withdrawn before the copy",
                        )
                    ],
                )

    def test_a_migration_that_fails_leaves_everything_as_it_was(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            home, copy = Path(folder) / "home", old_copy("version-0.1.0", Path(folder))
            put_restored(home)
            before = files_of(home)
            with closing(sqlite3.connect(copy)) as there:
                # the column that a later migration adds is there already
                there.execute("ALTER TABLE handover_sharelink ADD closed_by_restore_at TEXT")
                there.commit()
            refused = run(home, "restore", str(copy))
            self.assertIn("could not be brought up to this version", refused.stderr)
            self.assertEqual(files_of(home), before)

    def test_the_key_goes_with_the_copy_unless_it_is_left_out(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            homes = [Path(folder) / name for name in ("one", "other")]
            for home, key in zip(homes, (OLD_KEY, "another-key-of-another-home"), strict=True):
                home.mkdir()
                (home / "secret_key").write_text(key)
            own_key = {"PANTRY_SECRET_KEY": ""}
            run(homes[0], "restore", str(old_copy("version-0.1.0", Path(folder))), **own_key)
            for words, key in (((), OLD_KEY), (("--without-key",), "another-key-of-another-home")):
                (homes[1] / "secret_key").write_text("another-key-of-another-home")
                copy = str(Path(folder) / "copy.zip")
                run(homes[0], "backup", copy, *words, **own_key)
                restored = run(homes[1], "restore", copy, **own_key)
                self.assertEqual(restored.returncode, 0, restored.stderr)
                self.assertEqual((homes[1] / "secret_key").read_text().strip(), key)


class Refused(SimpleTestCase):
    """What is no whole copy of this program is refused, and nothing is touched."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.home = home_with_demo()
        cls.addClassCleanup(shutil.rmtree, cls.home)
        cls.folder = Path(tempfile.mkdtemp())
        cls.addClassCleanup(shutil.rmtree, cls.folder)
        cls.copy = cls.folder / "copy.zip"
        made = run(cls.home, "backup", str(cls.copy))
        assert made.returncode == 0, made.stderr
        cls.before = files_of(cls.home)

    def refuse(self, file: Path, words: str) -> None:
        """Try to restore a file: it is refused with these words, and every file is as it was."""
        tried = run(self.home, "restore", str(file))
        self.assertNotEqual(tried.returncode, 0, file)
        self.assertIn(words, tried.stderr)
        self.assertNotIn("Traceback", tried.stderr)
        self.assertEqual(files_of(self.home), self.before)

    def rewritten(self, name: str, change: Callable[[dict[str, object], Path], object]) -> Path:
        """A copy of which the page about it or the database was changed, its checksums made right
        again, as somebody would who knows how.
        """
        file, database = self.folder / f"{name}.zip", self.folder / f"{name}.sqlite3"
        with zipfile.ZipFile(self.copy) as parts:
            about = json.loads(parts.read("about.json"))
            database.write_bytes(parts.read("database.sqlite3"))
        change(about, database)
        about["sha256"] = hashlib.sha256(database.read_bytes()).hexdigest()
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as parts:
            parts.writestr("about.json", json.dumps(about))
            parts.write(database, "database.sqlite3")
            parts.comment = b"0" * SEAL
        whole = file.read_bytes()
        seal = b"sha256:" + hashlib.sha256(whole[:-SEAL]).hexdigest().encode()
        file.write_bytes(whole[:-SEAL] + seal)
        return file

    def test_the_copy_itself_would_be_taken(self) -> None:
        same = self.rewritten("same", lambda about, database: None)
        other = home_with_demo()
        self.addCleanup(shutil.rmtree, other)
        self.assertEqual(run(other, "restore", str(same)).returncode, 0)

    def test_newer_foreign_incomplete_and_false_ones(self) -> None:
        def sql(*lines: str) -> Callable[[dict[str, object], Path], None]:
            def changed(about: dict[str, object], database: Path) -> None:
                with closing(sqlite3.connect(database)) as there:
                    for line in lines:
                        there.execute(line)
                    there.commit()

            return changed

        no_history = "DELETE FROM django_migrations WHERE app = 'clients'"
        trigger = "CREATE TRIGGER t AFTER INSERT ON auth_user BEGIN SELECT 1; END"
        newer = "INSERT INTO django_migrations (app, name, applied) VALUES ('weeks', '0099_x', '')"
        for name, change, words in (
            ("newer", sql(newer), "newer version"),
            ("format", lambda about, _: about.update(format=2), "newer version"),
            ("table", sql("DROP TABLE follow_visit"), "the table follow_visit is missing"),
            ("column", sql("ALTER TABLE weeks_week DROP COLUMN note"), "the column note"),
            ("rows", sql("DELETE FROM clients_measurement"), "does not hold the rows"),
            ("history", sql(no_history), "not a database"),
            ("lonely", sql("PRAGMA foreign_keys=OFF", "DELETE FROM auth_user"), "belong together"),
            ("trigger", sql(trigger), "never"),
        ):  # fmt: skip
            with self.subTest(name):
                self.refuse(self.rewritten(name, change), words)

    def test_foreign_files(self) -> None:
        text, foreign = self.folder / "text.zip", self.folder / "foreign.sqlite3"
        text.write_text("a letter")
        with closing(sqlite3.connect(foreign)) as there:
            for table in ("django_migrations", "clients_client", "auth_user"):
                there.execute(f"CREATE TABLE {table} (id INTEGER)")
            there.commit()
        plain = self.folder / "plain.zip"
        with zipfile.ZipFile(plain, "w") as parts:
            parts.writestr("about.json", "{}")
        for file, words in (
            (text, "not a copy"),
            (foreign, "not a database of this program"),
            (plain, "not a copy"),
            (self.folder / "nothing.zip", "There is no file"),
            (self.folder, "could not be read"),
        ):
            with self.subTest(file.name):
                self.refuse(file, words)

    def test_one_byte_that_is_another_anywhere(self) -> None:
        from roundpantry.counter.backups.copy_files import check_copy
        from roundpantry.counter.backups.places import BackupError

        whole = self.copy.read_bytes()
        altered = self.folder / "altered.zip"
        places = range(0, len(whole), max(1, len(whole) // 120))
        for at in (*places, *range(len(whole) - SEAL, len(whole))):
            altered.write_bytes(whole[:at] + bytes([whole[at] ^ 1]) + whole[at + 1 :])
            with self.subTest(at), self.assertRaises(BackupError):
                check_copy(altered)
        for length in (0, 1, 100, len(whole) // 2, len(whole) - 1):
            altered.write_bytes(whole[:length])
            with self.subTest(f"cut at {length}"), self.assertRaises(BackupError):
                check_copy(altered)

    def test_while_the_program_runs(self) -> None:
        home = home_with_demo()
        self.addCleanup(shutil.rmtree, home)
        server = Server(home)
        self.addCleanup(server.kill)
        server.start()
        before = ask(home / "demo.sqlite3", "SELECT COUNT(*) FROM clients_client")
        refused = run(home, "restore", str(self.copy))
        self.assertIn("The program is running", refused.stderr)
        self.assertEqual(ask(home / "demo.sqlite3", "SELECT COUNT(*) FROM clients_client"), before)
        server.kill()
        self.assertEqual(run(home, "restore", str(self.copy)).returncode, 0)
