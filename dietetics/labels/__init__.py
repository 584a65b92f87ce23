"""Package labels: as typed or pasted, checked against themselves, and turned into foods of one's
own.
"""
