"""Cautions: facts about a client, their targets and their food go in; what to mind comes out."""
