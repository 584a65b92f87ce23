"""The second step: what the client should get, in windows, and how the day is divided into
meals.
"""
