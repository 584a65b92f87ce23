"""The question of a week (dishes, windows, rules, what is locked), its answer, and how an answer is
judged and checked.
"""
