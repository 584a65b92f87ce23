"""What a client let be known of a dish, by stars and by what was left on the plate, as a liking
for the planner.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

AS_RATED = {1: 0, 2: 0, 3: 1, 4: 2, 5: 3}  # stars as a liking
FINE, RATHER_NOT = 1, 0
# Left is a meal of which no more than this share was eaten; a dish that was left so often, and at
# least every second time, is rather not eaten: our judgement.
LEFT_UP_TO, LEFT_FROM = 0.5, 2


@dataclass(frozen=True)
class Heard:
    """What was heard of a dish: the newest `stars` (1 to 5, None for none), of how many meals with
    it something was reported, and how many of those were left.
    """

    stars: float | None = None
    reported: int = 0
    left: int = 0

    @property
    def is_often_left(self) -> bool:
        """True for a dish that was left twice, and at least every second time."""
        return self.left >= LEFT_FROM and 2 * self.left >= self.reported

    @property
    def liking(self) -> int:
        """The liking that follows: stars stand before what was left."""
        if self.stars is not None:
            return AS_RATED[round(self.stars)]
        return RATHER_NOT if self.is_often_left else FINE

    def words(self) -> str:
        """What was left, in words; "" where nothing was."""
        meals = "meal" if self.reported == 1 else "meals"
        return f"left at {self.left} of {self.reported} reported {meals}" if self.left else ""


NOTHING_HEARD = Heard()


def heard(stars: float | None, shares: Iterable[float]) -> Heard:
    """What was heard: stars, and the share (0 to 1) that was eaten at each reported meal."""
    eaten = list(shares)
    return Heard(stars, len(eaten), sum(share <= LEFT_UP_TO for share in eaten))
