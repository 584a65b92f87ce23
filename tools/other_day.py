"""How far a day is from now, for tests with the clock set.

    tools/other_day.py DAY[THH:MM]|chance [--zone ZONE]

prints the seconds the clock has to be put ahead ("+37152000" or "-86400"), the day, and what
brings it back.
"""

from __future__ import annotations

import argparse
import random
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from tzlocal import get_localzone_name

USUAL_HOUR = 10
YEARS = 10


def main() -> None:
    """Reckon and print."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("day")
    parser.add_argument("--zone", default=get_localzone_name())
    given = parser.parse_args()
    try:
        zone = ZoneInfo(given.zone)
    except (ZoneInfoNotFoundError, ValueError):
        parser.error(f"{given.zone} is no time zone; one is written like Europe/Lisbon")
    now = datetime.now(UTC)  # noqa: TID251
    if given.day == "chance":
        minutes = random.SystemRandom().randrange(YEARS * 365 * 24 * 60)
        wanted = (now + timedelta(minutes=minutes)).astimezone(zone)
    else:
        try:
            wanted = datetime.fromisoformat(given.day)
        except ValueError:
            parser.error(f"{given.day} is no day; one is written 2028-02-29 or 2028-02-29T23:50")
        if "T" not in given.day:
            wanted = wanted.replace(hour=USUAL_HOUR)
        wanted = wanted.replace(tzinfo=zone)
    ahead = round((wanted - now).total_seconds())
    print(f"{ahead:+d} {wanted:%A %d %B %Y %H:%M} {given.zone} {wanted:%Y-%m-%dT%H:%M}")


if __name__ == "__main__":
    main()
