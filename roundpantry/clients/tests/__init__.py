"""Tests of the app clients through its pages, on the made-up practice."""
