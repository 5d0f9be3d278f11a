"""One file for each thing a person does in Stores."""
