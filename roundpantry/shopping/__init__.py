"""Shopping: what a week, a dish or a batch needs, as it is bought."""
