"""What a client should get: windows for a day and a meal, and where a plan stands in them."""
