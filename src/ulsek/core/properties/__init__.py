"""One module for each property of a liquid; all take Contents or plain figures and return plain figures."""
