"""Preparing food for several days: tasks out of recipes, a timetable that is proven, and an evening
run by the clock.
"""
