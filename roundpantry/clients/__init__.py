"""The first step: who the client is, and what can hurt them."""
