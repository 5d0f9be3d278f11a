"""One file for each thing a person does with runs and lots."""
