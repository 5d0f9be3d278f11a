"""One file for each thing a person does with the house itself."""
