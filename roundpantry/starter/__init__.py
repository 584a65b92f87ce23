"""The starter pantry: batches and bowl patterns of our own, for a practice that has none yet."""
