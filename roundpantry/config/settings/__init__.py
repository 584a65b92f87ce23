"""Settings: `base` for all, `local` on one's own machine, `production` behind TLS, `test` for the
tests.
"""
