"""Tests of the app bowls through its pages, on the made-up practice."""
