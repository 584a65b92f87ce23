"""Cooked things: recipes as written, batches with a yield, and bowls made of foods and servings."""
