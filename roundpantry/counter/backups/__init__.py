"""Copies of the database: taken while it runs, checked, kept for a while, and put back."""
