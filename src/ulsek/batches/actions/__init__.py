"""One file for each thing a person does at the bench."""
