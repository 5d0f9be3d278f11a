"""The Django project: settings, addresses, security, health, and the page of the application."""
