"""What every screen shares: frame, rail, whose dish it is, levels, drawer and tokens."""
