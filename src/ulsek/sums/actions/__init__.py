"""What a person does with a sum."""
