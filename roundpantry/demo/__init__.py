"""Made-up data of an invented practice, so that every screen has something to show. Never used as
evidence.
"""
