"""Finding a food as one types: any word order, word beginnings, synonyms and misspellings.

A small index in memory over all names. Words that begin no word of the vocabulary are corrected by
bigrams and edit distance; the best are ranked by how early and how completely a name is matched, so
that the plain food stands before dishes made of it.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import Food, Shelf, read_table
from dietetics.composition.name_words import naming_words, words_of

MAX_EDITS_SHORT, MAX_EDITS_LONG = 1, 2


@dataclass(frozen=True)
class Found:
    """A search hit: the food, the name that matched, and the words that were corrected."""

    food: Food
    matched: str
    corrected: tuple[tuple[str, str], ...]


def edit_distance(a: str, b: str, limit: int) -> int:
    """Damerau edit distance (neighbouring letters swapped count one), or limit + 1 when it is
    more.

    >>> edit_distance("quniao", "quinoa", 2), edit_distance("tofu", "tempeh", 2)
    (2, 3)
    """
    if abs(len(a) - len(b)) > limit:
        return limit + 1
    before: list[int] = []
    last = list(range(len(b) + 1))
    for i, ca in enumerate(a, 1):
        row = [i]
        for j, cb in enumerate(b, 1):
            cost = min(last[j] + 1, row[j - 1] + 1, last[j - 1] + (ca != cb))
            if i > 1 and j > 1 and ca == b[j - 2] and a[i - 2] == cb:
                cost = min(cost, before[j - 2] + 1)
            row.append(cost)
        if min(row) > limit:
            return limit + 1
        before, last = last, row
    return last[-1]


def _bigrams(word: str) -> set[str]:
    padded = f"^{word}$"
    return {padded[i : i + 2] for i in range(len(padded) - 1)}


@lru_cache(maxsize=16384)
def _words_of_name(name: str) -> tuple[str, ...]:
    """`words_of`, known again: most names of a shelf stand in the next one too."""
    return words_of(name)


class SearchIndex:
    """Names of a shelf, by the beginnings of their words."""

    def __init__(self, foods: Iterable[Food]) -> None:
        self.names: list[tuple[Food, str, tuple[str, ...]]] = []
        self.by_word: dict[str, list[int]] = {}
        for food in foods:
            for name in dict.fromkeys(food.names):
                words = _words_of_name(name)
                number = len(self.names)
                self.names.append((food, name, words))
                for word in set(words):
                    self.by_word.setdefault(word, []).append(number)
        self.foods = {food.key: food for food, _, _ in self.names}
        self.leading = _leading()
        self.vocabulary = sorted(self.by_word)
        self.by_bigram: dict[str, list[str]] = {}
        for word in self.vocabulary:
            for pair in _bigrams(word):
                self.by_bigram.setdefault(pair, []).append(word)

    def beginning_with(self, prefix: str) -> list[str]:
        """Words of the vocabulary that begin so."""
        start = bisect_left(self.vocabulary, prefix)
        end = bisect_left(self.vocabulary, prefix + "\uffff")
        return self.vocabulary[start:end]

    def correct(self, word: str) -> str | None:
        """The nearest word of the vocabulary within one edit (two in words of six letters or more),
        or None.
        """
        limit = MAX_EDITS_LONG if len(word) >= 6 else MAX_EDITS_SHORT
        if len(word) < 4:
            return None
        shared: dict[str, int] = {}
        for pair in _bigrams(word):
            for other in self.by_bigram.get(pair, ()):
                shared[other] = shared.get(other, 0) + 1
        near = sorted(shared, key=lambda w: (-shared[w], w))[:40]
        scored = [
            (edit_distance(word, other, limit), abs(len(other) - len(word)), other)
            for other in near
        ]
        best = min(scored, default=None)
        return best[2] if best is not None and best[0] <= limit else None

    def within_one_edit(self, word: str, also: Iterable[str] = ()) -> set[str]:
        """Every word of the vocabulary, and of `also`, that is one letter off."""
        shared = {other for pair in _bigrams(word) for other in self.by_bigram.get(pair, ())}
        return {one for one in (*shared, *also) if edit_distance(word, one, 1) == 1}

    def search(self, query: str, limit: int = 20) -> list[Found]:
        """Return the best foods for a query, best first; an empty query finds nothing. A word that
        names many foods, or one that is not held, brings those that are meant first.
        """
        words = words_of(query)
        if not words:
            return []
        keys = self.leading.get(tuple(words), ())
        lead = [Found(food, food.name, ()) for key in keys if (food := self.foods.get(key))]
        taken = {hit.food.key for hit in lead}
        rest = [hit for hit in self._found(words, limit) if hit.food.key not in taken]
        return [*lead, *rest][:limit]

    def _found(self, words: tuple[str, ...], limit: int) -> list[Found]:
        corrected: list[tuple[str, str]] = []
        hits: dict[int, int] | None = None
        for word in words:
            options = self.beginning_with(word)
            if not options:
                nearest = self.correct(word)
                if nearest is None:
                    return []
                corrected.append((word, nearest))
                options = [nearest]
            of_word: dict[int, int] = {}
            for option in options:
                exact = 0 if option == word or (corrected and option == corrected[-1][1]) else 1
                for number in self.by_word[option]:
                    of_word[number] = min(exact, of_word.get(number, 1))
            hits = (
                of_word
                if hits is None
                else {n: hits[n] + s for n, s in of_word.items() if n in hits}
            )
        return self._ranked(hits or {}, words, tuple(corrected), limit)

    def _ranked(
        self,
        hits: dict[int, int],
        words: tuple[str, ...],
        corrected: tuple[tuple[str, str], ...],
        limit: int,
    ) -> list[Found]:
        first = dict(corrected).get(words[0], words[0])
        best: dict[str, tuple[tuple[int, ...], str, str]] = {}
        for number, inexact in hits.items():
            food, name, name_words = self.names[number]
            position = next((i for i, w in enumerate(name_words) if w.startswith(first)), 9)
            short = len(naming_words(name))
            # "oil" is first what is an oil, and then what is made with it
            other = 0 if words_of(name.split(",")[0])[-1:] == words[-1:] else 1
            usual = 0 if food.default else 1
            rank = (inexact, other, position, usual, food.processing, short)
            if food.key not in best or (rank, name) < (best[food.key][0], best[food.key][2]):
                best[food.key] = (rank, food.key, name)
        ordered = sorted(best.values())[:limit]
        return [Found(self.foods[key], name, corrected) for _, key, name in ordered]


def _leading() -> dict[tuple[str, ...], tuple[str, ...]]:
    """What stands first for words that name many foods, and in for names that no row has."""
    rows = [(row["name"], row["stand_ins"]) for row in read_table("names_not_held.csv")]
    rows += [(row["words"], row["keys"]) for row in read_table("search_kinds.csv")]
    return {tuple(words_of(words)): tuple(keys.split()) for words, keys in rows if keys}


_INDEXES: dict[int, tuple[Shelf, SearchIndex]] = {}


def index_of(shelf: Shelf) -> SearchIndex:
    """Return the search index of a shelf, made once a shelf."""
    kept = _INDEXES.get(id(shelf))
    if kept is None or kept[0] is not shelf:
        if len(_INDEXES) > 8:
            _INDEXES.clear()
        kept = _INDEXES[id(shelf)] = (shelf, SearchIndex(shelf))
    return kept[1]
