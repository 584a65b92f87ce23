"""Verbs for scripts: JSON on stdout, messages on stderr, no server and no database."""
