"""The search for a week: what misses least, class by class, then the cheapest of those, proven."""
