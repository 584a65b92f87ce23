"""The whole program through its pages, on the made-up practice; and what the apps share in their
tests.
"""
