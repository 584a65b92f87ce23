"""Prep: a week's cooking evenings as tasks, timetables and runs by the clock."""
