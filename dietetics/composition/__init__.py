"""Foods and what is in them: the shelf's table, sums with unknowns, derivations and derived
measures.
"""
