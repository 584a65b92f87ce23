"""Tests of the app counter through its pages, on the made-up practice."""
