"""Tests of following a client."""
