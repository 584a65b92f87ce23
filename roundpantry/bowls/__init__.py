"""The fourth step: the bowl bench, where portions are turned until the levels stand between their
lines.
"""
