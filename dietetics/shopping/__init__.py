"""What to buy for a plan: from grams as eaten or as put in to whole packages and pieces."""
