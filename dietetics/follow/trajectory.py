"""The weight behind the weigh-ins: a smoothed line with its doubt, and the pace with its interval.

A local level and slope (Kalman filter, then the Rauch-Tung-Striebel smoother), day by day: a day
without a weigh-in widens the doubt. The noise is stated, not fitted: what a body weighs differs
from day to day by about 0.7 % (water, food under way, clothes; common practice), a pace drifts by
about 0.2 kg a week in four weeks (our judgement). A weigh-in that lies far out is shown and not
believed, unless the next one agrees.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from dietetics.errors import DieteticsError

DAY_TO_DAY = 0.007  # of the weight, one standard deviation
LEVEL_KG = 0.04  # the body itself, a day
DRIFT_KG_PER_DAY = 0.2 / 7  # of the pace, in DRIFT_DAYS
DRIFT_DAYS = 28.0
PACE_BEFORE_KG_PER_DAY = 1.0 / 7  # one standard deviation, before anything is known
FAR_OUT = 3.5  # standard deviations of what was expected
AGREE_WITHIN_DAYS = 14
TWO_SIDED = 1.96  # standard deviations on both sides hold 95 %
MOST_DAYS = 20_000
DAYS_A_WEEK, PACE_DAYS = 7, 28


HALF_YEAR_DAYS = 182


@dataclass(frozen=True)
class WeighIn:
    """A weight on a day, in kg."""

    day: date
    kg: float


@dataclass(frozen=True)
class SmoothedDay:
    """The weight behind the weigh-ins on a day with its 95 % interval, and the pace, kg a week."""

    day: date
    kg: float
    sd: float
    pace: float
    pace_sd: float

    @property
    def low(self) -> float:
        """The lower end of the 95 % interval, kg."""
        return self.kg - TWO_SIDED * self.sd

    @property
    def high(self) -> float:
        """The upper end of the 95 % interval, kg."""
        return self.kg + TWO_SIDED * self.sd


@dataclass(frozen=True)
class Trajectory:
    """The smoothed line, day by day, and what was not believed."""

    days: tuple[SmoothedDay, ...]
    weigh_ins: tuple[WeighIn, ...]
    far_out: tuple[WeighIn, ...]

    @property
    def now(self) -> SmoothedDay:
        """The last day."""
        return self.days[-1]

    @property
    def pace(self) -> float:
        """The mean pace of the last four weeks, or of all there is, kg a week."""
        days = (self.now.day - self._then.day).days
        return (self.now.kg - self._then.kg) * DAYS_A_WEEK / days if days else 0.0

    @property
    def pace_interval(self) -> tuple[float, float]:
        """The 95 % interval of that pace, kg a week. The doubts of the two ends are taken as
        independent, which makes it rather too wide.
        """
        days = (self.now.day - self._then.day).days
        if not days:
            return -math.inf, math.inf
        half = TWO_SIDED * math.hypot(self.now.sd, self._then.sd) * DAYS_A_WEEK / days
        return self.pace - half, self.pace + half

    @property
    def _then(self) -> SmoothedDay:
        return self.days[max(0, len(self.days) - 1 - PACE_DAYS)]

    @property
    def lost_share(self) -> float:
        """The share of the weight that was lost over half a year, or since the first day where that
        is later; 0 where none was.
        """
        before = self.on(self.now.day - timedelta(days=HALF_YEAR_DAYS)) or self.days[0]
        return max(0.0, (before.kg - self.now.kg) / before.kg)

    def on(self, day: date) -> SmoothedDay | None:
        """The smoothed weight of a day inside the line."""
        at = (day - self.days[0].day).days
        return self.days[at] if 0 <= at < len(self.days) else None


@dataclass
class _State:
    """Level and slope a day, with their covariance."""

    level: float
    slope: float
    p00: float
    p01: float
    p11: float

    def copy(self) -> _State:
        return _State(self.level, self.slope, self.p00, self.p01, self.p11)

    def a_day_later(self) -> _State:
        """What is expected a day later."""
        return _State(
            self.level + self.slope,
            self.slope,
            self.p00 + 2 * self.p01 + self.p11 + LEVEL_KG**2 + SLOPE_NOISE / 3,
            self.p01 + self.p11 + SLOPE_NOISE / 2,
            self.p11 + SLOPE_NOISE,
        )

    def take(self, kg: float, noise: float) -> None:
        """Learn from a weigh-in with this variance."""
        total = self.p00 + noise
        gain_level, gain_slope = self.p00 / total, self.p01 / total
        off = kg - self.level
        self.level += gain_level * off
        self.slope += gain_slope * off
        self.p11 -= gain_slope * self.p01
        self.p01 *= 1 - gain_level
        self.p00 *= 1 - gain_level


SLOPE_NOISE = DRIFT_KG_PER_DAY**2 / DRIFT_DAYS  # kg² per day³


def noise_of(kg: float) -> float:
    """The variance of a weigh-in in kg²."""
    return (DAY_TO_DAY * kg) ** 2


def trajectory(weigh_ins: Sequence[WeighIn]) -> Trajectory:
    """The smoothed line through weigh-ins in any order. Raises DieteticsError
    `trajectory-none` where there is none, `trajectory-long` where they lie decades apart.
    """
    given = tuple(sorted(weigh_ins, key=lambda one: one.day))
    if not given:
        raise DieteticsError("trajectory-none")
    span = (given[-1].day - given[0].day).days
    if span > MOST_DAYS:
        raise DieteticsError("trajectory-long", years=span / 365.25)
    by_day: dict[int, list[WeighIn]] = {}
    for one in given:
        by_day.setdefault((one.day - given[0].day).days, []).append(one)
    believed, far_out = _believed(by_day)
    return Trajectory(_smoothed(believed, given[0].day, span), given, far_out)


def _first(kg: float) -> _State:
    return _State(kg, 0.0, noise_of(kg), 0.0, PACE_BEFORE_KG_PER_DAY**2)


def _believed(
    by_day: dict[int, list[WeighIn]],
) -> tuple[dict[int, list[float]], tuple[WeighIn, ...]]:
    """The weigh-ins that are learnt from, by day, and those that lie far out.

    One that lies far out waits: where the next one lies out on the same side and near it, both are
    believed, as a change that happened.
    """
    state: _State | None = None
    at, believed, out = 0, {}, []
    waiting: tuple[int, WeighIn] | None = None
    for day in sorted(by_day):
        for one in by_day[day]:
            if state is None:
                state, at = _first(one.kg), day
                believed[day] = [one.kg]
                continue
            for _ in range(day - at):
                state = state.a_day_later()
            at = day
            off = one.kg - state.level
            noise = noise_of(one.kg)
            if abs(off) <= FAR_OUT * math.sqrt(state.p00 + noise):
                if waiting is not None:
                    out.append(waiting[1])
                    waiting = None
                state.take(one.kg, noise)
                believed.setdefault(day, []).append(one.kg)
                continue
            if waiting is not None and _agree(waiting, day, one):
                believed.setdefault(waiting[0], []).append(waiting[1].kg)
                believed.setdefault(day, []).append(one.kg)
                state = _moved(state, (waiting[1].kg + one.kg) / 2, noise)
                waiting = None
                continue
            if waiting is not None:
                out.append(waiting[1])
            waiting = (day, one)
    if waiting is not None:
        out.append(waiting[1])
    return believed, tuple(out)


def _agree(waiting: tuple[int, WeighIn], day: int, one: WeighIn) -> bool:
    near = abs(waiting[1].kg - one.kg) <= FAR_OUT * math.sqrt(2 * noise_of(one.kg))
    return near and day - waiting[0] <= AGREE_WITHIN_DAYS


def _moved(state: _State, kg: float, noise: float) -> _State:
    """The state after a change that two weigh-ins agree on: there, at the pace of before."""
    return _State(kg, state.slope, noise / 2, 0.0, max(state.p11, PACE_BEFORE_KG_PER_DAY**2 / 4))


def _smoothed(believed: dict[int, list[float]], first: date, span: int) -> tuple[SmoothedDay, ...]:
    """Forward with what is believed, then back over all days."""
    expected, filtered = _forward(believed, span)
    smooth = filtered[-1].copy()
    found = [smooth]
    for day in range(span - 1, -1, -1):
        smooth = _back(filtered[day], expected[day + 1], smooth)
        found.append(smooth)
    return tuple(
        SmoothedDay(
            first + timedelta(days=n),
            one.level,
            math.sqrt(max(one.p00, 0.0)),
            one.slope * DAYS_A_WEEK,
            math.sqrt(max(one.p11, 0.0)) * DAYS_A_WEEK,
        )
        for n, one in enumerate(reversed(found))
    )


def _forward(believed: dict[int, list[float]], span: int) -> tuple[list[_State], list[_State]]:
    """What was expected of each day, and what is known after it. A change that two weigh-ins agree
    on widens what was expected, so that the line follows it.
    """
    start = believed[0]
    state = _first(start[0])
    expected, filtered = [state.copy()], []
    for kg in start[1:]:
        state.take(kg, noise_of(kg))
    filtered.append(state.copy())
    for day in range(1, span + 1):
        state = state.a_day_later()
        for kg in believed.get(day, []):
            off = kg - state.level
            if abs(off) > FAR_OUT * math.sqrt(state.p00 + noise_of(kg)):
                state.p00 += off**2
        expected.append(state.copy())
        for kg in believed.get(day, []):
            state.take(kg, noise_of(kg))
        filtered.append(state.copy())
    return expected, filtered


def _back(now: _State, expected: _State, after: _State) -> _State:
    """One step back of the smoother, from the day after."""
    # the gain is P F' / P_expected, with F = [[1, 1], [0, 1]]
    a, b, c = now.p00 + now.p01, now.p01, now.p01 + now.p11
    d = now.p11
    det = expected.p00 * expected.p11 - expected.p01**2
    i00, i01, i11 = expected.p11 / det, -expected.p01 / det, expected.p00 / det
    g00, g01 = a * i00 + b * i01, a * i01 + b * i11
    g10, g11 = c * i00 + d * i01, c * i01 + d * i11
    off_level, off_slope = after.level - expected.level, after.slope - expected.slope
    e00, e01, e11 = (
        after.p00 - expected.p00,
        after.p01 - expected.p01,
        after.p11 - expected.p11,
    )
    return _State(
        now.level + g00 * off_level + g01 * off_slope,
        now.slope + g10 * off_level + g11 * off_slope,
        now.p00 + g00 * g00 * e00 + 2 * g00 * g01 * e01 + g01 * g01 * e11,
        now.p01 + g00 * g10 * e00 + (g00 * g11 + g01 * g10) * e01 + g01 * g11 * e11,
        now.p11 + g10 * g10 * e00 + 2 * g10 * g11 * e01 + g11 * g11 * e11,
    )
