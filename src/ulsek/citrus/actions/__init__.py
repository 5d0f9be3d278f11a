"""What a person does with fruit, one file each."""
