"""Tests of the app compare through its pages, on the made-up practice."""
