"""The pantry shelf: finding a food, and the page of one food."""
