"""The whole program through its pages, on the made-up practice.

Property tests run without deadlines: a busy machine is no fault of the program.
"""

from hypothesis import HealthCheck, settings

settings.register_profile("unhurried", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("unhurried")
