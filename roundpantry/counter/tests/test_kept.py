"""What is kept in memory: made once a state, whole for every thread, never more than its bound."""

from __future__ import annotations

import unittest
from concurrent.futures import ThreadPoolExecutor

from roundpantry.counter.kept import Kept, Newest, changing, read_once, reading


class KeptValues(unittest.TestCase):
    """By key, and the newest of an owner."""

    def test_a_value_is_made_once_a_key(self) -> None:
        made: list[int] = []
        kept: Kept[int, str] = Kept(10)
        for key in (1, 2, 1, 1, 2):
            self.assertEqual(kept.of(key, lambda key=key: made.append(key) or str(key)), str(key))
        self.assertEqual(made, [1, 2])

    def test_no_more_than_the_bound_are_kept(self) -> None:
        kept: Kept[int, int] = Kept(5)
        for key in range(100):
            kept.of(key, lambda key=key: key)
            self.assertLessEqual(len(kept.values), 5)

    def test_a_value_is_whole_while_another_thread_forgets_all(self) -> None:
        kept: Kept[int, int] = Kept(1)  # every new key forgets what was there

        def asked(key: int) -> bool:
            return all(kept.of(key, lambda: key) == key for _ in range(2_000))

        with ThreadPoolExecutor(8) as threads:
            self.assertTrue(all(threads.map(asked, range(8))))

    def test_another_stamp_makes_another_value(self) -> None:
        newest: Newest[str, list[str]] = Newest(10)
        first = newest.of(1, "a", lambda: ["a"])
        self.assertIs(newest.of(1, "a", lambda: ["again"]), first)
        self.assertEqual(newest.of(1, "b", lambda: ["b"]), ["b"])
        self.assertEqual(newest.of(2, "a", lambda: ["other"]), ["other"])


class ReadOnce(unittest.TestCase):
    """What is read while a page is put together."""

    def setUp(self) -> None:
        self.read = 0

    def look(self, key: str = "a") -> int:
        """How often was read so far, where it is read again."""

        def anew() -> int:
            self.read += 1
            return self.read

        return read_once(key, anew)

    def test_once_a_key_and_page_and_each_time_outside(self) -> None:
        self.assertEqual([self.look(), self.look()], [1, 2])
        with reading():
            self.assertEqual([self.look(), self.look(), self.look("b"), self.look()], [3, 3, 4, 3])
            with reading():  # a part of the page
                self.assertEqual(self.look(), 3)
            self.assertEqual(self.look("b"), 4)
        with reading():
            self.assertEqual(self.look(), 5)

    def test_a_change_reads_anew_and_forgets_what_was_read_before_it(self) -> None:
        with reading():
            self.assertEqual(self.look(), 1)
            with changing():
                self.assertEqual([self.look(), self.look()], [2, 3])
            self.assertEqual([self.look(), self.look()], [4, 4])
            with self.assertRaises(ValueError), changing():
                raise ValueError("half-way")
            self.assertEqual(self.look(), 5)

    def test_another_thread_reads_for_itself(self) -> None:
        with reading():
            self.assertEqual(self.look(), 1)
            with ThreadPoolExecutor(1) as threads:
                self.assertEqual(threads.submit(self.look).result(), 2)
            self.assertEqual(self.look(), 1)
