"""The week: the client's skeleton over seven days, batches as threads, a week chosen by solver,
versions handed over.
"""
