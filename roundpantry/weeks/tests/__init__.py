"""Tests of the app weeks through its pages, on the made-up practice."""
