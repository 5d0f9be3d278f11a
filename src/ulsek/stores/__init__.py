"""Materials and deliveries of a house, with their compositions and prices."""
