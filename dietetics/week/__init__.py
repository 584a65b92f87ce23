"""The week: a skeleton filled from a few dishes, what each day gives, pots as threads, and a week
chosen by solver.
"""
