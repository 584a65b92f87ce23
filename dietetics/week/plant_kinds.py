"""What a week costs for holding fewer kinds of vegetables, beans, grains and colours than wanted,
and for something that is served too often, such as bitter greens.

A kind counts once in a week, in whatever dishes it comes; servings are counted dish by dish. The
prices are our judgement.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

KIND = 6.0  # points for each kind fewer than wanted
TOO_OFTEN = 10.0  # points for each serving above the most
PlantKinds = Mapping[str, frozenset[str]]  # by their group, such as "Grains": what a dish holds


def plant_kind_points(
    wanted: Mapping[str, int],
    most_servings: Mapping[str, int],
    dishes: Sequence[PlantKinds],
    servings: Mapping[int, int],
) -> float:
    """Points for a week in which each dish (by its place) comes so many times."""
    points = 0.0
    on = [(dishes[dish], count) for dish, count in servings.items() if count]
    for group, least in wanted.items():
        kinds = {kind for held, _ in on for kind in held.get(group, ())}
        points += KIND * max(0, least - len(kinds))
    for group, most in most_servings.items():
        points += TOO_OFTEN * max(0, sum(count for held, count in on if held.get(group)) - most)
    return points


class PlantKindCount:
    """The kinds of a week while it is searched: what a dish that comes or goes changes."""

    def __init__(
        self,
        wanted: Mapping[str, int],
        most_servings: Mapping[str, int],
        dishes: Sequence[PlantKinds],
    ) -> None:
        self.wanted = [(group, least) for group, least in wanted.items() if least > 0]
        self.most = list(most_servings.values())
        places = {
            key: n
            for n, key in enumerate(
                sorted(
                    {
                        (g, kind)
                        for g, (group, _) in enumerate(self.wanted)
                        for held in dishes
                        for kind in held.get(group, ())
                    }
                )
            )
        }
        self.group = [g for g, _ in places]
        self.held = [
            tuple(
                places[g, kind]
                for g, (group, _) in enumerate(self.wanted)
                for kind in held.get(group, ())
            )
            for held in dishes
        ]
        self.limited = [
            tuple(n for n, group in enumerate(most_servings) if held.get(group)) for held in dishes
        ]
        self.clear()

    def clear(self) -> None:
        """Nothing is served."""
        self.dishes_with = [0] * len(self.group)
        self.kinds = [0] * len(self.wanted)
        self.servings = [0] * len(self.most)

    def served(self, dish: int, sign: int, first_or_last: bool) -> None:
        """A serving more (sign 1) or fewer (-1); whether it is the only one of its dish."""
        for limit in self.limited[dish]:
            self.servings[limit] += sign
        if first_or_last:
            for kind in self.held[dish]:
                before = self.dishes_with[kind]
                self.dishes_with[kind] = before + sign
                if before == (0 if sign > 0 else 1):
                    self.kinds[self.group[kind]] += sign

    def points(self) -> float:
        """What the week costs for its kinds as it stands."""
        missing = sum(
            [max(0, least - n) for (_, least), n in zip(self.wanted, self.kinds, strict=True)]
        )
        above = sum([max(0, n - most) for n, most in zip(self.servings, self.most, strict=True)])
        return KIND * missing + TOO_OFTEN * above
