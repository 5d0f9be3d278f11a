"""One file for each thing a person does with a job."""
