"""What is shown of an evaluation: its JSON, the working of a number, the difference between two versions, the spec card, the quiz."""
