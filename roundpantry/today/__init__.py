"""Today: the practitioner's clients, and what each of them needs next."""
