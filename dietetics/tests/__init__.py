"""Tests of the core: against the open data, published figures, definitions and properties.

Property tests run without deadlines, and searches without a clock: a busy machine is no fault of
the program.
"""

from hypothesis import HealthCheck, settings

from dietetics.time_limits import mind_the_clock

settings.register_profile("unhurried", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("unhurried")
mind_the_clock(False)
