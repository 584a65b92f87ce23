"""Tests of the app targets through its pages, on the made-up practice."""
