"""Tests of the app shelf through its pages, on the made-up practice."""
