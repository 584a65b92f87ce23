"""The real interface in Debian's Chromium: the six steps, keys, touch, widths and accessibility."""
