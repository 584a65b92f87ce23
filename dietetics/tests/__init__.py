"""Tests of the core: against the open data, published figures, definitions and properties."""
