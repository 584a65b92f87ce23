"""Tests of the app batches through its pages, on the made-up practice."""
