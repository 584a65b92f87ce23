"""Settings, addresses and the WSGI entry of the project."""
