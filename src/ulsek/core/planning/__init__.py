"""The list of a day: what must stand there, what is made when and by whom, what is ordered, and a validator that checks every list independently."""
