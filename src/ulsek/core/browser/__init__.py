"""The core in a browser: a house's data as one bundle, the draft that is being edited, and questions and answers as JSON."""
