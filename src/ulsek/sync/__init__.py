"""What people did on a device, signed there, and taken in whoever carries it."""
