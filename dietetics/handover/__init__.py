"""What a client is given: a week they can cook and eat from without the practitioner."""
