"""Every field of every address is filled with references to another practitioner's things: none is
taken, none is shown.
"""

from __future__ import annotations

from django.urls import reverse

from hostile import LONG, again, sample
from hostile.practice import MARK, Attacked, digest_of, references_to
from roundpantry.demo.tests.addresses import OPEN_TO_ALL, addresses_of
from roundpantry.demo.tests.test_hostile_input import SENSIBLE, watched
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import ACTIONS

LEFT = (
    "clients:delete",
    "weeks:remove",
    "batches:remove",
    "bowls:remove",
    "bowls:change-pattern",
)  # take away what is attacked


class ForeignReferences(Attacked):
    """Who may be named by whom."""

    def fields_of(self, where: str, method: str, base: dict[str, str]) -> set[str]:
        names: set[str] = set()
        with watched(names):
            getattr(self.client, method)(where, base)
        return names - {"csrfmiddlewaretoken", "revision", "because", "plan"}

    def chosen(self, theirs: list[str], turn: int) -> list[str]:
        """What is tried in a field: all of it in the long form; else the key of a label, and one
        more by turns.
        """
        if LONG:
            return theirs
        labels, others = theirs[-9:-7], theirs[:-9] + theirs[-7:]
        return [labels[turn // 2 % 2], others[turn // 2 % len(others)]]

    def addresses(self) -> list[tuple[str, dict[str, str]]]:
        """Every address, each with what makes a sensible request of it."""
        found = [(where, SENSIBLE) for _, where in addresses_of(self.petra, {*OPEN_TO_ALL, *LEFT})]
        week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        return [
            *found,
            *((reverse("weeks:act", args=[week.pk, what]), SENSIBLE) for what in ACTIONS),
        ]

    def test_no_field_reaches_what_is_another_practitioners(self) -> None:
        theirs, before = references_to(self.joon), digest_of(self.joon)
        tried, leaks = 0, []
        week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        for where, base in sample("foreign references", self.addresses(), 0.05):
            for method in ("get", "post"):
                for field in sorted(self.fields_of(where, method, base)):
                    for reference in self.chosen(theirs, tried):
                        revision = Week.objects.filter(pk=week.pk).values_list(
                            "revision", flat=True
                        )[0]
                        given = {
                            **base,
                            "revision": str(revision),
                            "because": "for a test",
                            field: reference,
                        }
                        answer = getattr(self.client, method)(
                            where, given, headers={"HX-Request": "true"}
                        )
                        tried += 1
                        if MARK.encode() in getattr(answer, "content", b""):
                            leaks.append(f"{method} {where} {field}={reference}")
        broken, leaking = self.unreadable()
        print(
            f"\nforeign references: {tried} tried, {len(leaks)} shown at once, {len(leaking)} "
            f"pages leak, {len(broken)} broken"
        )
        self.assertEqual((leaks[:20], leaking[:20], broken[:20]), ([], [], []), again())
        self.assertEqual(digest_of(self.joon), before)
        self.assertGreater(tried, 1000 if LONG else 20)
