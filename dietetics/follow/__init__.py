"""What happens to a client after the plan was given: measured, eaten, expected, and what to
change.
"""
