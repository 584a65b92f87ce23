"""The whole program through its pages, on the made-up practice."""
