"""The Django project: settings, addresses, security, health, and the one page that carries the application."""
