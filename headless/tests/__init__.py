"""Tests of the headless verbs, run as a person would: a process, its output and its exit code."""
