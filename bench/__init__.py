"""Speed as ratios to a baseline measured in the same run, so that a figure means something on any
machine.
"""
