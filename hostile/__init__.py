"""What an attacker, a clumsy hand or a power cut would do, done to the program: nothing may leak,
be lost or stay broken.

The short form runs with every test; `./pantry test --hostile` runs the long one.
"""

import os

LONG = os.environ.get("PANTRY_HOSTILE") == "long"
