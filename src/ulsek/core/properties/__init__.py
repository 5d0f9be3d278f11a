"""One module for each property of a liquid. All take Contents or plain figures and return plain figures."""
