"""Written amounts: tokens, grammar, measures, matching of foods, and the reading of a whole
line.
"""
