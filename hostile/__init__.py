"""What an attacker, a clumsy hand or a power cut would do, done to the program: nothing may leak,
be lost or stay broken.

The short form runs with every test, on a part of all addresses, fields and files that is drawn anew
each time; `./pantry test --hostile` runs the long one, on all of them.
"""

from dietetics.tests.samples import LONG, SEED, again, sample

__all__ = ["LONG", "SEED", "again", "sample"]
