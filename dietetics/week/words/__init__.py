"""A week in words: its verdict, what it stands against, ways to a better one, and its files."""
