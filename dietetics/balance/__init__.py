"""Balance: portions chosen by a proven optimum, the conflict when there is none, and what would
help.
"""
