"""What stands in the way of publishing: release check, process hazards, legal names, allergens and their carry-over."""
