"""The fifth step: two plates side by side, the picture that argues for a swap."""
