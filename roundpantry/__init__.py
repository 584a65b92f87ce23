"""The Django project: one app for each step of the practitioner's work."""
