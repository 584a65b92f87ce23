"""The third step: component dishes cooked for several days, read from what was written."""
